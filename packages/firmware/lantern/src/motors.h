/* motors.h: step, direction and enable lines. */
#pragma once
#include "hw.h"
void motors_start(void);
void motors_enable(bool on);
void motor_direction(int motor, bool plus);
void motor_step(int motor);
