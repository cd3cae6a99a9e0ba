/* sensor.h: ADC counts to degrees. */
#pragma once
#include "heat/heaters.h"
#include "option_heat.h"
#include "pins_heat.h"
#include <stdbool.h>
#define HAS_SPARE (SENSOR_SPARE && PIN_SPARE_SENSOR >= 0)
/* One for each that is heated, then the hot end's second. */
enum { SPARE = HEATERS, SENSORS = HEATERS + HAS_SPARE };
bool sensor_there(int which);
/* Temperature in °C; 0 where there is no sensor. */
float sensor_c(int which);
