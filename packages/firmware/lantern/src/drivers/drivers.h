/* drivers.h: driver modules that listen. Those set by their pot are left alone. */
#pragma once
#include "option_drivers.h"
#include "proto/commands.h"
#define HAS_DRIVERS (DRIVER_LINE != DRIVER_LINE_POT)
#if HAS_DRIVERS
void drivers_start(void);
void drivers_changed(int setting, float before);
void drivers_tick(void);
#if DRIVER_REPORT
int drivers_lines(void);
void drivers_tell(int line);
#endif
#endif
