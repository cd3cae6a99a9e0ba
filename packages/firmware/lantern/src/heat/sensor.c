/* sensor.c: straight lines between the rows of the generated tables. Rows run from the hottest (lowest count) down. */
#include "heat/sensor.h"
#include "hal/hw.h"
#include "option_sensors.h"
#include "pins_heat.h"

struct row { uint16_t raw; int16_t deci_c; };
static const struct row HOTEND_TABLE[] = SENSOR_HOTEND_TABLE;
static const struct row BED_TABLE[] = SENSOR_BED_TABLE;
#if PIN_CHAMBER_SENSOR >= 0
static const struct row CHAMBER_TABLE[] = SENSOR_CHAMBER_TABLE;
#endif
#if EXTRUDER_SECOND
static const struct row HOTEND_2_TABLE[] = SENSOR_SECOND_HOTEND_TABLE;
#endif
#if HAS_SPARE
static const struct row SPARE_TABLE[] = SENSOR_SECOND_TABLE;
#endif
static const struct { const struct row *rows; uint8_t count; int16_t pin; } SENSOR[SENSORS] = {
    {HOTEND_TABLE, SENSOR_HOTEND_ROWS, PIN_HOTEND_SENSOR},
    {BED_TABLE, SENSOR_BED_ROWS, PIN_BED_SENSOR},
#if PIN_CHAMBER_SENSOR >= 0
    {CHAMBER_TABLE, SENSOR_CHAMBER_ROWS, PIN_CHAMBER_SENSOR},
#else
    {BED_TABLE, SENSOR_BED_ROWS, -1},
#endif
#if EXTRUDER_SECOND
    {HOTEND_2_TABLE, SENSOR_SECOND_HOTEND_ROWS, PIN_HOTEND_2_SENSOR},
#endif
#if HAS_SPARE
    {SPARE_TABLE, SENSOR_SECOND_ROWS, PIN_SPARE_SENSOR},
#endif
};

bool sensor_there(int which) { return SENSOR[which].pin >= 0; }

float sensor_c(int which)
{
    if (SENSOR[which].pin < 0) return 0;
    const struct row *row = SENSOR[which].rows, *last = row + SENSOR[which].count - 1;
    uint32_t raw = hw_adc(SENSOR[which].pin);
    if (raw <= row->raw) return (float)row->deci_c / 10;
    while (row < last && raw > row[1].raw) row++;
    if (row == last) return (float)row->deci_c / 10;
    float share = (float)(raw - row->raw) / (float)(row[1].raw - row->raw);
    return ((float)row->deci_c + share * (float)(row[1].deci_c - row->deci_c)) / 10;
}
