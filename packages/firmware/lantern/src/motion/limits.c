/* limits.c: the travel of each axis, for every move that anybody asks for. */
#include "motion/limits.h"
#include "bed/by_hand.h"
#include "core/number.h"
#include "messages.h"
#include "motion/homing.h"
#include "option_travel.h"

#define SLACK_MM 1e-3f
/* So far below its travel Z may go while its limit is lifted. */
#define LIFTED_MM 3.0f

static const float ENDS[HOMED_AXES][2] = {
    {TRAVEL_X_MIN, TRAVEL_X_MAX}, {TRAVEL_Y_MIN, TRAVEL_Y_MAX}, {TRAVEL_Z_MIN, TRAVEL_Z_MAX}};

_Static_assert(TRAVEL_X_MIN < TRAVEL_X_MAX, "[travel.x.max] X travel ends before it begins");
_Static_assert(TRAVEL_Y_MIN < TRAVEL_Y_MAX, "[travel.y.max] Y travel ends before it begins");
_Static_assert(TRAVEL_Z_MIN < TRAVEL_Z_MAX, "[travel.z.max] Z travel ends before it begins");

float limit_end(int axis, int high) { return ENDS[axis][high]; }

bool limit_holds(int axis, float mm) { return mm >= ENDS[axis][0] - SLACK_MM && mm <= ENDS[axis][1] + SLACK_MM; }

static bool lifted;
void limits_lift(bool on) { lifted = on; }

static bool may(int axis, float mm)
{
    if (limit_holds(axis, mm)) return true;
    bool low = lifted || by_hand_under_way();
    return axis == Z && low && mm <= ENDS[Z][1] && mm >= ENDS[Z][0] - LIFTED_MM;
}

const char *limits_refuse(const struct place *from, const struct place *to)
{
    for (int i = 0; i < HOMED_AXES; i++) {
        float way = to->mm[i] - from->mm[i];
        if (way == 0) continue;
        if (homed(i) && !may(i, to->mm[i])) return MSG_OUTSIDE;
        if (!homed(i) && !(magnitude(way) <= UNHOMED_REACH_MM)) return MSG_NOT_HOMED_REACH;
    }
    return NULL;
}

#if LIMITS_LIFT
static enum outcome off(const struct words *w) { (void)w; limits_lift(true); return DONE; }
static enum outcome on(const struct words *w) { (void)w; limits_lift(false); return DONE; }

const struct command LIMIT_COMMANDS[] = {
    VERB("limits off", 0, NULL, off),
    VERB("limits on", 0, NULL, on),
    NO_COMMAND,
};
#endif
