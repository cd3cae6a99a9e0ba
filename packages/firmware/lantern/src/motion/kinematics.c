/* kinematics.c: how the motors of this frame move its axes. */
#include "motion/kinematics.h"
#include "core/number.h"
#include "core/settings.h"
#include "option_motion.h"

static float steps_of(int motor) { return setting[SET_STEPS_X + motor]; }

void to_motors(const float at[HOMED_AXES], int32_t steps[HOMED_AXES])
{
#if FRAME_KINEMATICS == FRAME_KINEMATICS_CROSS_BELT
    steps[X] = nearest((at[X] + at[Y]) * steps_of(X));
    steps[Y] = nearest((at[X] - at[Y]) * steps_of(Y));
#else
    steps[X] = nearest(at[X] * steps_of(X));
    steps[Y] = nearest(at[Y] * steps_of(Y));
#endif
    steps[Z] = nearest(at[Z] * steps_of(Z));
}

void to_axes(const int32_t steps[HOMED_AXES], float at[HOMED_AXES])
{
    float a = (float)steps[X] / steps_of(X), b = (float)steps[Y] / steps_of(Y);
#if FRAME_KINEMATICS == FRAME_KINEMATICS_CROSS_BELT
    at[X] = (a + b) / 2;
    at[Y] = (a - b) / 2;
#else
    at[X] = a;
    at[Y] = b;
#endif
    at[Z] = (float)steps[Z] / steps_of(Z);
}
