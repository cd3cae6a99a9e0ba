/* limits.c: the travel of each axis, for every move that anybody asks for. */
#include "motion/limits.h"
#include "core/number.h"
#include "motion/homing.h"
#include "option_travel.h"

#define SLACK_MM 1e-3f

static const float ENDS[HOMED_AXES][2] = {
    {TRAVEL_X_MIN, TRAVEL_X_MAX}, {TRAVEL_Y_MIN, TRAVEL_Y_MAX}, {TRAVEL_Z_MIN, TRAVEL_Z_MAX}};

_Static_assert(TRAVEL_X_MIN < TRAVEL_X_MAX, "[travel.x.max] X travel ends before it begins");
_Static_assert(TRAVEL_Y_MIN < TRAVEL_Y_MAX, "[travel.y.max] Y travel ends before it begins");
_Static_assert(TRAVEL_Z_MIN < TRAVEL_Z_MAX, "[travel.z.max] Z travel ends before it begins");

float limit_end(int axis, int high) { return ENDS[axis][high]; }

bool limit_holds(int axis, float mm) { return mm >= ENDS[axis][0] - SLACK_MM && mm <= ENDS[axis][1] + SLACK_MM; }

const char *limits_refuse(const struct place *from, const struct place *to)
{
    for (int i = 0; i < HOMED_AXES; i++) {
        float way = to->mm[i] - from->mm[i];
        if (way == 0) continue;
        if (homed(i) && !limit_holds(i, to->mm[i])) return "outside the travel";
        if (!homed(i) && !(magnitude(way) <= UNHOMED_REACH_MM)) return "axis not homed, only moves of 10 mm or less";
    }
    return NULL;
}
