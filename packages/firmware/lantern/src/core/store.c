/* store.c: two slots take turns. Each holds a head (mark, sequence, layout, sum) and the values; a head is written last, so
 * that power lost half way leaves the older slot whole. */
#include "core/store.h"
#include "core/settings.h"
#include "option_store.h"
#include "proto/print.h"

#if STORE_KEPT
enum { MARK = 0x4c, SLOTS = 2 };
struct head { uint32_t mark, sequence, layout, sum; };
struct slot { struct head head; float values[SETTINGS_COUNT]; };

/* Where the running save is. */
static struct slot saving;
static uint32_t saving_at, written;
static bool under_way;

static uint32_t sum_of(const struct slot *slot)
{
    uint32_t sum = 2166136261u ^ slot->head.sequence; /* FNV-1a */
    const uint8_t *bytes = (const uint8_t *)slot->values;
    for (uint32_t i = 0; i < sizeof slot->values; i++) sum = (sum ^ bytes[i]) * 16777619u;
    return sum;
}

static enum store_state read_slot(uint32_t which, struct slot *slot)
{
    for (uint32_t i = 0; i < sizeof *slot; i++) ((uint8_t *)slot)[i] = (uint8_t)hw_store_read(which * (uint32_t)sizeof *slot + i);
    if (slot->head.mark != MARK) return STORE_FRESH;
    if (slot->head.layout != SETTINGS_MARK) return STORE_OTHER_LAYOUT;
    return slot->head.sum == sum_of(slot) ? STORE_LOADED : STORE_DAMAGED;
}

/* The newest whole slot, or SLOTS; `worst` tells what is wrong where there is none. */
static uint32_t newest(struct slot *best, enum store_state *worst)
{
    uint32_t found = SLOTS;
    struct slot slot;
    *worst = STORE_FRESH;
    for (uint32_t i = 0; i < SLOTS; i++) {
        enum store_state state = read_slot(i, &slot);
        if (state != STORE_LOADED) { if (state > *worst) *worst = state; continue; }
        if (found < SLOTS && (int32_t)(slot.head.sequence - best->head.sequence) < 0) continue;
        *best = slot;
        found = i;
    }
    return found;
}

enum store_state store_load(void)
{
    struct slot slot;
    enum store_state worst;
    if (newest(&slot, &worst) == SLOTS) return worst;
    for (int i = 0; i < SETTINGS_COUNT; i++)
        if (!setting_allows(i, slot.values[i])) return STORE_DAMAGED;
    for (int i = 0; i < SETTINGS_COUNT; i++) setting_put(i, slot.values[i]);
    return STORE_LOADED;
}

bool store_begin(void)
{
    if (hw_store_size() < SLOTS * sizeof saving) return false;
    struct slot old;
    enum store_state worst;
    uint32_t at = newest(&old, &worst);
    saving.head = (struct head){MARK, at < SLOTS ? old.head.sequence + 1 : 1, SETTINGS_MARK, 0};
    for (int i = 0; i < SETTINGS_COUNT; i++) saving.values[i] = setting[i];
    saving.head.sum = sum_of(&saving);
    saving_at = (at == 0 ? 1 : 0) * (uint32_t)sizeof saving;
    written = 0;
    under_way = true;
    return true;
}

/* The values first, then the head, its mark last of all; before any of it the mark is taken away. */
static uint32_t place_of(uint32_t step)
{
    if (step < sizeof saving.values) return (uint32_t)sizeof saving.head + step;
    return (uint32_t)sizeof saving - 1 - step;
}

bool store_saved(void)
{
    if (!under_way) return true;
    while (!hw_store_busy()) {
        if (written == 0) { hw_store_write(saving_at, 0); written = 1; continue; }
        if (written > sizeof saving) { under_way = false; return true; }
        uint32_t place = place_of(written - 1);
        hw_store_write(saving_at + place, ((const uint8_t *)&saving)[place]);
        written++;
    }
    return false;
}
#else
enum store_state store_load(void) { return STORE_FRESH; }
bool store_begin(void) { return false; }
bool store_saved(void) { return true; }
#endif

void store_report(const char *lead, enum store_state state)
{
    static const char *const WORD[] = {"fresh", "loaded", "other-layout", "damaged"};
    print(lead);
    print_name(lead[0] == 'a' ? "store" : "state");
    print(WORD[state]);
    print_end();
}
