/* kinematics.h: places in mm to motor steps and back. */
#pragma once
#include "axes.h"
#include "hw.h"
void to_motors(const float at[AXES], int32_t steps[AXES]);
void to_axes(const int32_t steps[AXES], float at[AXES]);
