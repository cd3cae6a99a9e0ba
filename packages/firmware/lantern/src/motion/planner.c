/* planner.c: entry speeds. Kept as squares: v² = u² + 2 a s needs no root while planning. */
#include "motion/planner.h"
#include "core/number.h"
#include "option_corner.h"

static struct block ring[BLOCKS];
static uint8_t oldest, count;
static uint32_t added;
static bool running;
static float last_unit[AXES], last_speed;

static struct block *at(int index) { return &ring[(oldest + index) % BLOCKS]; }

bool planner_full(void) { return count == BLOCKS; }
int planner_count(void) { return count; }
uint32_t planner_added(void) { return added; }
uint32_t planner_ended(void) { return added - count; }
void planner_clear(void) { count = 0; running = false; }

bool planner_feeds(void) { return count > 0 && at(0)->steps[at(0)->feeder] > 0; }

static float reach(const struct block *block) { return 2 * block->accel * block->length; }

/* An axis may change its own speed by its jolt at once: v |u − u'| is at most that. */
static float by_jolt(const float unit[AXES], int axis, float jolt, float most)
{
    float turn = magnitude(unit[axis] - last_unit[axis]);
    return turn * most > jolt ? jolt / turn : most;
}

#if CORNER_BY == CORNER_BY_DEVIATION
/* A corner taken on a circle that leaves it by the deviation d: v² = a d s / (1 − s), s the sine of half the angle between
 * the way back and the way on. Only for the head's axes; the extruder keeps to its jolt. */
static float of_head(const float unit[AXES], float accel, float most)
{
    float back = 0, before = 0, now = 0;
    for (int i = 0; i < HOMED_AXES; i++) {
        back -= unit[i] * last_unit[i];
        before += last_unit[i] * last_unit[i];
        now += unit[i] * unit[i];
    }
    if (before < 0.5f && now < 0.5f) return most; /* filament after filament */
    if (before < 0.5f || now < 0.5f || back > 0.999999f) return 0;
    if (back < -0.999999f) return most;
    float sine = __builtin_sqrtf((1 - back) / 2);
    return smaller(most, __builtin_sqrtf(accel * CORNER_DEVIATION * sine / (1 - sine)));
}
#else
static const float JOLT[HOMED_AXES] = {CORNER_JOLT_X, CORNER_JOLT_Y, CORNER_JOLT_Z};

static float of_head(const float unit[AXES], float accel, float most)
{
    (void)accel;
    for (int i = 0; i < HOMED_AXES; i++) most = by_jolt(unit, i, JOLT[i], most);
    return most;
}
#endif

/* The highest speed at which the corner from the block before may be taken. */
static float corner(const struct block *block, const float unit[AXES])
{
    float jolt = OF_EXTRUDER(block->feeder, CORNER_JOLT_E, CORNER_JOLT_SECOND_E);
    return by_jolt(unit, E, jolt, of_head(unit, block->accel, smaller(last_speed, block->speed)));
}

/* Backwards: what can still be braked. Forwards: what can be reached. The block that runs, and the speed it ends with, stay. */
static void plan(void)
{
    int first = running ? 2 : 1;
    float exit_squared = 0;
    for (int i = count - 1; i >= first; i--) {
        struct block *block = at(i);
        block->entry_squared = smaller(block->corner_squared, exit_squared + reach(block));
        exit_squared = block->entry_squared;
    }
    for (int i = first; i < count; i++) {
        float reached = at(i - 1)->entry_squared + reach(at(i - 1));
        if (at(i)->entry_squared > reached) at(i)->entry_squared = reached;
    }
}

void planner_add(const struct block *block, const float unit[AXES])
{
    bool alone = count == 0;
    float most = alone ? 0 : corner(block, unit);
    struct block *place = at(count);
    *place = *block;
    place->corner_squared = most * most;
    place->entry_squared = 0;
    for (int i = 0; i < AXES; i++) last_unit[i] = unit[i];
    last_speed = block->speed;
    count++;
    added++;
    plan();
}

const struct block *planner_begin(float *exit_squared)
{
    if (count == 0) return NULL;
    running = true;
    *exit_squared = count > 1 ? at(1)->entry_squared : 0;
    return at(0);
}

void planner_end(void)
{
    oldest = (uint8_t)((oldest + 1) % BLOCKS);
    count--;
    running = false;
}
