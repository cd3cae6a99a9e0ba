/* filament_sensor.h: a print that pauses when the filament ends. */
#pragma once
#include "option_filament.h"
#include "pins_filament.h"
#define HAS_FILAMENT_SENSOR (FILAMENT_SENSOR && PIN_FILAMENT >= 0)
#if HAS_FILAMENT_SENSOR
void filament_sensor_start(void);
void filament_sensor_tick(void);
int filament_sensor_lines(void);
void filament_sensor_tell(int line);
#endif
