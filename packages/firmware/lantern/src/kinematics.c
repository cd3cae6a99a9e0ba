#include "kinematics.h"
#include "option_motion.h"
#include "settings.h"

static int32_t whole(float value) { return (int32_t)(value + (value < 0 ? -0.5f : 0.5f)); }

void to_motors(const float at[AXES], int32_t steps[AXES])
{
#if FRAME_KINEMATICS == FRAME_KINEMATICS_CROSS_BELT
    steps[X] = whole((at[X] + at[Y]) * settings.steps[X]);
    steps[Y] = whole((at[X] - at[Y]) * settings.steps[Y]);
#else
    steps[X] = whole(at[X] * settings.steps[X]);
    steps[Y] = whole(at[Y] * settings.steps[Y]);
#endif
    steps[Z] = whole(at[Z] * settings.steps[Z]);
    steps[E] = whole(at[E] * settings.steps[E]);
}

void to_axes(const int32_t steps[AXES], float at[AXES])
{
    float a = (float)steps[X] / settings.steps[X], b = (float)steps[Y] / settings.steps[Y];
#if FRAME_KINEMATICS == FRAME_KINEMATICS_CROSS_BELT
    at[X] = (a + b) / 2;
    at[Y] = (a - b) / 2;
#else
    at[X] = a;
    at[Y] = b;
#endif
    at[Z] = (float)steps[Z] / settings.steps[Z];
    at[E] = (float)steps[E] / settings.steps[E];
}
