/* heat.h: heaters, their targets and their watch. */
#pragma once
#include "hal/hw.h"
#include "heat/heaters.h"
#include "proto/commands.h"
void heat_start(void);
bool heater_there(int heater);
/* Any target is set. */
bool heat_wanted(void);
/* Sets a target, 0 to the highest; NULL, or why not. */
const char *heat_set(int heater, float c);
float heat_target(int heater);
/* Within 2 °C of its target, or without one. */
bool heat_reached(int heater);
/* As it was last read, °C. */
float heat_now(int heater);
/* Its sensor reads something that may be: an open one would read colder than anything is. */
bool heat_known(int heater);
/* Every millisecond; does its work ten times a second. */
STANDS void heat_tick(void);
void heat_off(void);
int heat_lines(void);
void heat_tell(int line);
extern const struct command HEAT_COMMANDS[];
