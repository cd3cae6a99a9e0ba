/* tune.h: a heater swung by a relay round a temperature; what it does tells P, I and D. */
#pragma once
#include "option_control.h"
#include "proto/commands.h"
#if TUNE_ON
/* Whether the tune has this heater in hand, and the duty it gives it. */
bool tune_steers(int heater);
float tune_duty(float now);
void tune_stop(void);
extern const struct command TUNE_COMMANDS[];
#endif
