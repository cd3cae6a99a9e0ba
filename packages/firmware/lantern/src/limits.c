#include "limits.h"
#include "homing.h"
#include "option_travel.h"

static const float ENDS[HOMED_AXES][2] = {
    {TRAVEL_X_MIN, TRAVEL_X_MAX}, {TRAVEL_Y_MIN, TRAVEL_Y_MAX}, {TRAVEL_Z_MIN, TRAVEL_Z_MAX}};

_Static_assert(TRAVEL_X_MIN < TRAVEL_X_MAX, "[travel.x.max] X travel ends before it begins");
_Static_assert(TRAVEL_Y_MIN < TRAVEL_Y_MAX, "[travel.y.max] Y travel ends before it begins");
_Static_assert(TRAVEL_Z_MIN < TRAVEL_Z_MAX, "[travel.z.max] Z travel ends before it begins");

float limit_end(int axis, int high) { return ENDS[axis][high]; }

const char *limits_refuse(const float from[AXES], const float to[AXES])
{
    for (int i = 0; i < HOMED_AXES; i++) {
        float way = to[i] - from[i];
        if (way == 0) continue;
        if (!homed(i)) {
            if (way > UNHOMED_REACH_MM || way < -UNHOMED_REACH_MM) return "axis not homed, only moves of 10 mm or less";
        } else if (to[i] < ENDS[i][0] - 1e-3f || to[i] > ENDS[i][1] + 1e-3f) {
            return "outside the travel";
        }
    }
    return NULL;
}
