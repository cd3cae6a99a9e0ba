/* heat.h: heaters, their targets and their watch. */
#pragma once
#include "hal/hw.h"
#include "heat/heaters.h"
#include "proto/commands.h"
void heat_start(void);
bool heater_there(int heater);
/* As it was last read, °C. */
float heat_now(int heater);
/* Every millisecond; does its work ten times a second. */
void heat_tick(void);
void heat_off(void);
int heat_lines(void);
void heat_tell(int line);
extern const struct command HEAT_COMMANDS[];
