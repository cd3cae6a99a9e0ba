/* store.c: two slots take turns. Each holds a head (mark, sequence, count, sum), then a name and a value for each setting; a
 * head is written last, so that power lost half way leaves the older slot whole. Values are found by name: what another
 * image stored is taken over as far as both know it. */
#include "core/store.h"
#include "core/settings.h"
#include "option_store.h"
#include "proto/print.h"

#if STORE_KEPT
enum { MARK = 0x4c, SLOTS = 2, MOST = 64 };
struct head { uint32_t mark, sequence, count, sum; };
struct slot { struct head head; uint16_t names[SETTINGS_COUNT]; uint8_t values[SETTINGS_COUNT * sizeof(float)]; };
enum { ENTRY = sizeof(uint16_t) + sizeof(float), CONTENT = SETTINGS_COUNT * ENTRY, WHOLE = sizeof(struct head) + CONTENT };
_Static_assert(sizeof(struct head) + MOST * ENTRY <= STORE_SLOT, "the slots overlap");
_Static_assert(SETTINGS_COUNT <= MOST, "more settings than a slot holds");

/* Where the running save is. */
static struct slot saving;
static uint32_t saving_at, written;
static bool under_way;

static uint8_t byte_at(uint32_t at) { return (uint8_t)hw_store_read(at); }

static void read_bytes(uint32_t at, void *to, uint32_t count)
{
    for (uint32_t i = 0; i < count; i++) ((uint8_t *)to)[i] = byte_at(at + i);
}

static uint32_t add_to_sum(uint32_t sum, uint8_t byte) { return (sum ^ byte) * 16777619u; } /* FNV-1a */
static uint32_t sum_start(uint32_t sequence) { return 2166136261u ^ sequence; }

static enum store_state read_head(uint32_t which, struct head *head)
{
    uint32_t at = which * STORE_SLOT;
    read_bytes(at, head, sizeof *head);
    if (head->mark != MARK) return STORE_FRESH;
    if (head->count > MOST) return STORE_DAMAGED;
    uint32_t sum = sum_start(head->sequence);
    for (uint32_t i = 0; i < head->count * ENTRY; i++) sum = add_to_sum(sum, byte_at(at + (uint32_t)sizeof *head + i));
    return head->sum == sum ? STORE_LOADED : STORE_DAMAGED;
}

/* The newest whole slot, or SLOTS; `worst` tells what is wrong where there is none. */
static uint32_t newest(struct head *best, enum store_state *worst)
{
    uint32_t found = SLOTS;
    struct head head;
    *worst = STORE_FRESH;
    for (uint32_t i = 0; i < SLOTS; i++) {
        enum store_state state = read_head(i, &head);
        if (state != STORE_LOADED) { if (state > *worst) *worst = state; continue; }
        if (found < SLOTS && (int32_t)(head.sequence - best->sequence) < 0) continue;
        *best = head;
        found = i;
    }
    return found;
}

static int place_of_name(uint16_t name)
{
    for (int i = 0; i < SETTINGS_COUNT; i++)
        if (SETTING_ROWS[i].name == name) return i;
    return -1;
}

enum store_state store_load(void)
{
    struct head head;
    enum store_state worst;
    uint32_t which = newest(&head, &worst);
    if (which == SLOTS) return worst;
    uint32_t names = which * STORE_SLOT + (uint32_t)sizeof head, values = names + head.count * (uint32_t)sizeof(uint16_t);
    uint32_t known = 0;
    for (uint32_t i = 0; i < head.count; i++) {
        uint16_t name;
        float value;
        read_bytes(names + i * (uint32_t)sizeof name, &name, sizeof name);
        read_bytes(values + i * (uint32_t)sizeof value, &value, sizeof value);
        int place = place_of_name(name);
        if (place < 0 || !setting_allows(place, value)) continue;
        setting_put(place, value);
        known++;
    }
    return known == SETTINGS_COUNT && head.count == SETTINGS_COUNT ? STORE_LOADED : STORE_OTHER_LAYOUT;
}

bool store_begin(void)
{
    if (hw_store_size() < STORE_SLOT + WHOLE) return false;
    struct head old;
    enum store_state worst;
    uint32_t at = newest(&old, &worst);
    saving.head = (struct head){MARK, at < SLOTS ? old.sequence + 1 : 1, SETTINGS_COUNT, 0};
    for (int i = 0; i < SETTINGS_COUNT; i++) saving.names[i] = SETTING_ROWS[i].name;
    for (uint32_t i = 0; i < sizeof saving.values; i++) saving.values[i] = ((const uint8_t *)setting)[i];
    uint32_t sum = sum_start(saving.head.sequence);
    for (uint32_t i = 0; i < CONTENT; i++) sum = add_to_sum(sum, ((const uint8_t *)saving.names)[i]);
    saving.head.sum = sum;
    saving_at = at == 0 ? STORE_SLOT : 0;
    written = 0;
    under_way = true;
    return true;
}

/* The values first, then the head, its mark last of all; before any of it the mark is taken away. */
static uint32_t place_of(uint32_t step)
{
    if (step < CONTENT) return (uint32_t)sizeof saving.head + step;
    return WHOLE - 1 - step;
}

bool store_saved(void)
{
    if (!under_way) return true;
    while (!hw_store_busy()) {
        if (written == 0) { hw_store_write(saving_at, 0); written = 1; continue; }
        if (written > WHOLE) { under_way = false; return true; }
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
