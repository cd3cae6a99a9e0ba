/* heat.h: heaters, their targets and their watch. */
#pragma once
#include "hw.h"
void heat_start(void);
bool heater_there(int heater);
/* False when the target is above what is allowed. 0 switches off. */
bool heat_target(int heater, float c);
bool heat_reached(int heater);
void heat_off(void);
/* Every millisecond; does its work ten times a second. */
void heat_tick(void);
/* One line a heater, each begun by `lead`. */
void heat_report(const char *lead);
