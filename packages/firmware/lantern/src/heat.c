#include "heat.h"
#include "control.h"
#include "guard.h"
#include "option_heat.h"
#include "option_sensors.h"
#include "pins_heat.h"
#include "print.h"
#include "sensors.h"
#include "settings.h"
#include "stop.h"

_Static_assert(HEAT_HOTEND_MAX <= SENSOR_HOTEND_LIMIT_C, "[heat.hotend.max] the hot end may be set hotter than its sensor stands");
_Static_assert(!BED_HEATED || HEAT_BED_MAX <= SENSOR_BED_LIMIT_C, "[heat.bed.max] the bed may be set hotter than its sensor stands");
_Static_assert(PIN_HOTEND_HEATER < 0 || PIN_HOTEND_SENSOR >= 0, "[sensor.hotend] the hot end is heated but has no sensor connected");

enum { PERIOD_TICKS = 100, PATIENCE = 20 };
static const uint32_t CYCLE_US[HEATERS] = {(uint32_t)(HEAT_HOTEND_CYCLE * 1e6f), (uint32_t)(HEAT_BED_CYCLE * 1e6f)};
#define REACHED_C 2.0f

static const int16_t PIN[HEATERS] = {PIN_HOTEND_HEATER, BED_HEATED ? PIN_BED_HEATER : -1};
static const float MAX_C[HEATERS] = {HEAT_HOTEND_MAX, HEAT_BED_MAX};
static const float MIN_C[HEATERS] = {HEAT_HOTEND_MIN, HEAT_BED_MIN};
static const char *const NAME[HEATERS] = {"hotend", "bed"};

/* Asked of the linked image, after the order in kit.yaml, before a build is called done. */
enum { TOLD_PER_HEATER = GUARD_VALUES + 2 };
EXPORT(lantern_guard) float lantern_guard(int index)
{
    int heater = index / TOLD_PER_HEATER, what = index % TOLD_PER_HEATER;
    if (index < 0 || heater >= HEATERS) return -1;
    if (what < GUARD_VALUES) return guard_told(heater, what);
    return what == GUARD_VALUES ? MIN_C[heater] : MAX_C[heater];
}

static float target[HEATERS], now[HEATERS], duty[HEATERS];
static uint8_t odd[HEATERS], ticks;

bool heater_there(int heater) { return PIN[heater] >= 0; }

static void drive(int heater, float share)
{
    duty[heater] = share;
    if (heater_there(heater)) hw_pwm(PIN[heater], CYCLE_US[heater], (uint32_t)(share * (float)CYCLE_US[heater]));
}

void heat_start(void)
{
    for (int i = 0; i < HEATERS; i++) {
        if (!heater_there(i)) continue;
        hw_pin_mode(PIN[i], PIN_OUTPUT);
        drive(i, 0);
        now[i] = sensor_c(i);
    }
}

bool heat_target(int heater, float c)
{
    if (!heater_there(heater) || c < 0 || c > MAX_C[heater]) return false;
    target[heater] = c;
    control_reset(heater);
    guard_restart(heater, now[heater]);
    return true;
}

bool heat_reached(int heater)
{
    float off = target[heater] - now[heater];
    return target[heater] == 0 || (off < REACHED_C && off > -REACHED_C);
}

void heat_off(void)
{
    for (int i = 0; i < HEATERS; i++) {
        target[i] = 0;
        drive(i, 0);
    }
}

/* A single odd reading is noise; a row of them is a broken sensor or a runaway. */
static bool out_of_range(int heater)
{
    bool bad = now[heater] < MIN_C[heater] || now[heater] > MAX_C[heater] + 10;
    odd[heater] = bad ? (uint8_t)(odd[heater] + 1) : 0;
    if (odd[heater] < PATIENCE) return false;
    odd[heater] = 0;
    return true;
}

void heat_tick(void)
{
    if (++ticks < PERIOD_TICKS) return;
    ticks = 0;
    for (int i = 0; i < HEATERS; i++) {
        if (!heater_there(i)) continue;
        now[i] = sensor_c(i);
        if (stopped()) continue;
        if (out_of_range(i)) {
            stop_now(now[i] < MIN_C[i] ? (i == HOTEND ? "hotend sensor open or too cold" : "bed sensor open or too cold")
                                       : (i == HOTEND ? "hotend too hot or sensor shorted" : "bed too hot or sensor shorted"));
            return;
        }
        drive(i, target[i] > 0 ? control_duty(i, target[i], now[i]) : 0);
        if (target[i] > 0 && guard_trips(i, target[i], now[i])) {
            stop_now(i == HOTEND ? "hotend does not follow its heater" : "bed does not follow its heater");
            return;
        }
    }
}

void heat_report(const char *lead)
{
    for (int i = 0; i < HEATERS; i++) {
        if (!heater_there(i)) continue;
        print(lead);
        print("heat");
        print_name("body");
        print(NAME[i]);
        print_name("now");
        print_float(now[i], 1);
        print_name("target");
        print_float(target[i], 1);
        print_name("duty");
        print_float(duty[i], 2);
        print_end();
    }
}
