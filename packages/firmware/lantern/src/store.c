#include "store.h"
#include "option_store.h"
#include "settings.h"

#if STORE_KEPT
/* Counted up whenever struct settings changes its meaning. */
enum { LAYOUT = 1, MARK = 0x4c };
struct record { uint8_t mark, layout; uint16_t length; uint32_t sum; };

static uint32_t sum_of(const uint8_t *bytes, uint32_t count)
{
    uint32_t sum = 2166136261u; /* FNV-1a */
    for (uint32_t i = 0; i < count; i++) sum = (sum ^ bytes[i]) * 16777619u;
    return sum;
}

static void get(uint32_t at, void *to, uint32_t count)
{
    for (uint32_t i = 0; i < count; i++) ((uint8_t *)to)[i] = (uint8_t)hw_store_read(at + i);
}

static void put(uint32_t at, const void *from, uint32_t count)
{
    for (uint32_t i = 0; i < count; i++) hw_store_write(at + i, ((const uint8_t *)from)[i]);
}

enum store_state store_load(void)
{
    struct record record;
    struct settings read;
    get(0, &record, sizeof record);
    if (record.mark != MARK) return STORE_FRESH;
    if (record.layout != LAYOUT || record.length != sizeof read) return STORE_OTHER_LAYOUT;
    get(sizeof record, &read, sizeof read);
    if (record.sum != sum_of((const uint8_t *)&read, sizeof read)) return STORE_DAMAGED;
    settings = read;
    return STORE_LOADED;
}

bool store_save(void)
{
    struct record record = {MARK, LAYOUT, sizeof settings, sum_of((const uint8_t *)&settings, sizeof settings)};
    if (hw_store_size() < sizeof record + sizeof settings) return false;
    put(sizeof record, &settings, sizeof settings);
    put(0, &record, sizeof record);
    return true;
}
#else
enum store_state store_load(void) { return STORE_FRESH; }
bool store_save(void) { return false; }
#endif

const char *store_word(enum store_state state)
{
    static const char *const WORD[] = {"fresh", "loaded", "other-layout", "damaged"};
    return WORD[state];
}
