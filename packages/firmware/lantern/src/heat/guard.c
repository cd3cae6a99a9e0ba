/* guard.c: two watches for each heater.
 * Rise: all the heat there is, given since the temperature last rose by so much, may not pass the time to rise. Less than
 * all is not counted: close to its target a control creeps, and a sensor that slips out there is soon given all. Only a
 * rise pays it off, or having held a target as long; a fallen temperature, a new or repeated target do not.
 * Drop: once a target was held, staying so far below it for the time to drop trips. A target that is raised while it is
 * held becomes a rise; one that is raised while the temperature falls away does not hide the fall. */
#include "heat/control.h"
#include "heat/guard.h"
#include "heat/heaters.h"
#include "option_guard.h"

#define PERIOD_S 0.1f
#define GUARDS_SECOND (EXTRUDER_SECOND && GUARD_SECOND_HOTEND)
#define HAS_GUARD (GUARD_HOTEND || GUARD_BED || GUARD_CHAMBER || GUARDS_SECOND)

#if HAS_GUARD
/* One for each heater that is guarded. */
static const struct guarded { uint8_t heater; float rise, rise_s, drop, drop_s; } GUARDED[] = {
#if GUARD_HOTEND
    {HOTEND, GUARD_HOTEND_RISE, GUARD_HOTEND_RISE_TIME, GUARD_HOTEND_DROP, GUARD_HOTEND_DROP_TIME},
#endif
#if GUARDS_SECOND
    {HOTEND_2, GUARD_SECOND_HOTEND_RISE, GUARD_SECOND_HOTEND_RISE_TIME, GUARD_SECOND_HOTEND_DROP, GUARD_SECOND_HOTEND_DROP_TIME},
#endif
#if GUARD_BED
    {BED, GUARD_BED_RISE, GUARD_BED_RISE_TIME, GUARD_BED_DROP, GUARD_BED_DROP_TIME},
#endif
#if GUARD_CHAMBER
    {CHAMBER, GUARD_CHAMBER_RISE, GUARD_CHAMBER_RISE_TIME, GUARD_CHAMBER_DROP, GUARD_CHAMBER_DROP_TIME},
#endif
};
enum { COUNT = sizeof GUARDED / sizeof *GUARDED };

static struct watch {
    float mark;        /* temperature at the last rise, or the lowest since */
    float given_s;     /* seconds of full duty since */
    float held_s, fallen_s;
    float target;
    bool holding;
} watches[COUNT];

static int place_of(int heater)
{
    int i = 0;
    while (i < COUNT && GUARDED[i].heater != heater) i++;
    return i;
}

float guard_told(int heater, int what)
{
    int i = place_of(heater);
    if (i == COUNT) return 0;
    switch (what) {
    case 0: return 1;
    case 1: return GUARDED[i].rise;
    case 2: return GUARDED[i].rise_s;
    case 3: return GUARDED[i].drop;
    default: return GUARDED[i].drop_s;
    }
}

void guard_reset(void)
{
    for (int i = 0; i < COUNT; i++) watches[i] = (struct watch){.mark = 1e6f};
}

static void follow_target(struct watch *w, float target, float now, float drop)
{
    if (target == w->target) return;
    /* What has not fallen from what was held, and is not held with the new target, begins to rise: lowered before, it may
     * have swung a little below. */
    if (target == 0 || (w->holding && now >= w->target - drop && now < target - drop / 2)) w->holding = false;
    w->target = target;
}

bool guard_trips(int heater, float target, float now, float duty)
{
    int i = place_of(heater);
    if (i == COUNT) return false;
    const struct guarded *guard = &GUARDED[i];
    struct watch *w = &watches[i];
    float slack = guard->drop / 2;
    follow_target(w, target, now, guard->drop);
    bool there = target > 0 && now >= target - slack;
    if (there) w->holding = true;

    if (now < w->mark) w->mark = now;
    w->held_s = there ? w->held_s + PERIOD_S : 0;
    if (now >= w->mark + guard->rise || w->held_s > guard->rise_s) {
        w->mark = now;
        w->given_s = w->held_s = 0;
    } else if (!there && duty >= control_cap(heater)) w->given_s += duty * PERIOD_S;
    bool fallen = w->holding && now < target - guard->drop;
    w->fallen_s = fallen ? w->fallen_s + PERIOD_S : 0;
    return w->given_s > guard->rise_s || w->fallen_s > guard->drop_s;
}
#else
void guard_reset(void) {}

float guard_told(int heater, int what)
{
    (void)heater;
    (void)what;
    return 0;
}

bool guard_trips(int heater, float target, float now, float duty)
{
    (void)heater;
    (void)target;
    (void)now;
    (void)duty;
    return false;
}
#endif
