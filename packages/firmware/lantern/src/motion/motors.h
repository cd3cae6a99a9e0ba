/* motors.h: step, direction and enable lines. */
#pragma once
#include "hal/hw.h"
void motors_start(void);
void motors_enable(bool on);
bool motors_enabled(void);
/* Level of a motor's direction line for a way. */
uint8_t motor_level(int motor, bool plus);
/* Steps made towards plus less those towards minus since power-on. */
int32_t motor_made(int motor);
