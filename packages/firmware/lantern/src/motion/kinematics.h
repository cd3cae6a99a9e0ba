/* kinematics.h: ways along the axes to motor steps and back. */
#pragma once
#include "hal/hw.h"
#include "motion/axes.h"
/* Steps of X, Y and Z's motors for a place in mm. The extruder's are counted apart. */
void to_motors(const float at[HOMED_AXES], int32_t steps[HOMED_AXES]);
void to_axes(const int32_t steps[HOMED_AXES], float at[HOMED_AXES]);
