/* guard.h: the thermal guard. A body that is heated must warm; one that was warm must not fall. It follows heater and
 * temperature; what is commanded meanwhile starts nothing anew. */
#pragma once
#include "hal/hw.h"
/* Ten times a second, with the duty given since the last time. True when it trips. */
STANDS bool guard_trips(int heater, float target, float now, float duty);
/* Everything forgotten: after a stop only. */
void guard_reset(void);
enum { GUARD_VALUES = 5 };
/* A value read from the table that guards: on, rise, time to rise, drop, time to drop. */
float guard_told(int heater, int what);
