/* control.h: from a temperature to a duty, 0 to 1. Ten times a second. */
#pragma once
void control_reset(int heater);
/* Where its P is among the settings; I and D follow. */
int control_pid(int heater);
/* The highest duty a heater is ever given. */
float control_cap(int heater);
float control_duty(int heater, float target, float now);
