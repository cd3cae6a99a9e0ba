/* sensor.h: ADC counts to degrees. */
#pragma once
/* Temperature of HOTEND or BED in °C. */
float sensor_c(int heater);
