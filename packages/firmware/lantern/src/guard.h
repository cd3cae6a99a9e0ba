/* guard.h: the thermal guard. A body that is heated must warm; one that is held must not fall. */
#pragma once
#include "hw.h"
void guard_restart(int heater, float now);
bool guard_trips(int heater, float target, float now);
enum { GUARD_VALUES = 5 };
float guard_told(int heater, int what);
