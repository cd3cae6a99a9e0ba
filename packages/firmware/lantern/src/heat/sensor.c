/* sensor.c: straight lines between the rows of the generated tables. Rows run from the hottest (lowest count) down. */
#include "heat/sensor.h"
#include "hal/hw.h"
#include "heat/heaters.h"
#include "option_sensors.h"
#include "pins_heat.h"

struct row { uint16_t raw; int16_t deci_c; };
static const struct row HOTEND_TABLE[] = SENSOR_HOTEND_TABLE;
static const struct row BED_TABLE[] = SENSOR_BED_TABLE;
static const struct { const struct row *rows; uint8_t count; int16_t pin; } SENSOR[HEATERS] = {
    {HOTEND_TABLE, SENSOR_HOTEND_ROWS, PIN_HOTEND_SENSOR},
    {BED_TABLE, SENSOR_BED_ROWS, PIN_BED_SENSOR},
};

float sensor_c(int heater)
{
    if (SENSOR[heater].pin < 0) return 0;
    const struct row *row = SENSOR[heater].rows, *last = row + SENSOR[heater].count - 1;
    uint32_t raw = hw_adc(SENSOR[heater].pin);
    if (raw <= row->raw) return (float)row->deci_c / 10;
    while (row < last && raw > row[1].raw) row++;
    if (row == last) return (float)row->deci_c / 10;
    float share = (float)(raw - row->raw) / (float)(row[1].raw - row->raw);
    return ((float)row->deci_c + share * (float)(row[1].deci_c - row->deci_c)) / 10;
}
