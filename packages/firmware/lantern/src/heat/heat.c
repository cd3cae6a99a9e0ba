/* heat.c: ten times a second: read, watch, steer. */
#include "heat/heat.h"
#include "core/stop.h"
#include "heat/control.h"
#include "heat/guard.h"
#include "heat/sensor.h"
#include "option_heat.h"
#include "option_sensors.h"
#include "pins_heat.h"
#include "proto/print.h"

_Static_assert(HEAT_HOTEND_MAX <= SENSOR_HOTEND_LIMIT_C, "[heat.hotend.max] the hot end may be set hotter than its sensor stands");
_Static_assert(!BED_HEATED || HEAT_BED_MAX <= SENSOR_BED_LIMIT_C, "[heat.bed.max] the bed may be set hotter than its sensor stands");
_Static_assert(PIN_HOTEND_HEATER < 0 || PIN_HOTEND_SENSOR >= 0, "[sensor.hotend] the hot end is heated but has no sensor connected");

enum { PERIOD_TICKS = 100, PATIENCE = 20 };
static const uint32_t CYCLE_US[HEATERS] = {(uint32_t)(HEAT_HOTEND_CYCLE * 1e6f), (uint32_t)(HEAT_BED_CYCLE * 1e6f)};
#define REACHED_C 2.0f
/* A target may be the highest; control may swing this far above it. */
#define ABOVE_MAX_C 10.0f

static const int16_t PIN[HEATERS] = {PIN_HOTEND_HEATER, BED_HEATED ? PIN_BED_HEATER : -1};
static const float MAX_C[HEATERS] = {HEAT_HOTEND_MAX, HEAT_BED_MAX};
static const float MIN_C[HEATERS] = {HEAT_HOTEND_MIN, HEAT_BED_MIN};
static const char *const NAME[HEATERS] = {"hotend", "bed"};
static const char *const ABOUT[HEATERS] = {"hotend ", "bed "};

float lantern_guard(int index);

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
float heat_now(int heater) { return now[heater]; }

static void drive(int heater, float share)
{
    duty[heater] = share;
    if (heater_there(heater)) hw_pwm(PIN[heater], CYCLE_US[heater], (uint32_t)(share * (float)CYCLE_US[heater]));
}

void heat_start(void)
{
    guard_reset();
    for (int i = 0; i < HEATERS; i++) {
        if (!heater_there(i)) continue;
        hw_pin_mode(PIN[i], PIN_OUTPUT);
        drive(i, 0);
        now[i] = sensor_c(i);
    }
}

void heat_off(void)
{
    for (int i = 0; i < HEATERS; i++) {
        target[i] = 0;
        drive(i, 0);
    }
    guard_reset();
}

/* A single odd reading is noise; a row of them is a broken sensor or a runaway. */
static bool out_of_range(int heater)
{
    bool bad = now[heater] < MIN_C[heater] || now[heater] > MAX_C[heater] + ABOVE_MAX_C;
    odd[heater] = bad ? (uint8_t)(odd[heater] + 1) : 0;
    if (odd[heater] < PATIENCE) return false;
    odd[heater] = 0;
    return true;
}

static void watch_and_steer(int heater)
{
    now[heater] = sensor_c(heater);
    if (stopped()) return;
    if (out_of_range(heater)) {
        stop_now(ABOUT[heater], now[heater] < MIN_C[heater] ? "sensor open or too cold" : "too hot or sensor shorted");
        return;
    }
    if (guard_trips(heater, target[heater], now[heater], duty[heater])) {
        stop_now(ABOUT[heater], "does not follow its heater");
        return;
    }
    drive(heater, target[heater] > 0 ? control_duty(heater, target[heater], now[heater]) : 0);
}

void heat_tick(void)
{
    if (++ticks < PERIOD_TICKS) return;
    ticks = 0;
    for (int i = 0; i < HEATERS; i++)
        if (heater_there(i)) watch_and_steer(i);
}

int heat_lines(void) { return heater_there(HOTEND) + heater_there(BED); }

void heat_tell(int line)
{
    int i = line == 0 && heater_there(HOTEND) ? HOTEND : BED;
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

static bool reached(int heater)
{
    float off = target[heater] - now[heater];
    return target[heater] == 0 || (off < REACHED_C && off > -REACHED_C);
}

static enum outcome set(const struct words *w, int heater)
{
    if (!has(w, 'S')) return fail("S, the target in degrees, is missing");
    if (!heater_there(heater)) return fail("no such heater");
    float c = word(w, 'S', 0);
    if (!(c >= 0 && c <= MAX_C[heater])) return fail("target out of range");
    if (c != target[heater]) control_reset(heater);
    target[heater] = c;
    return DONE;
}

static bool hotend_reached(void) { return reached(HOTEND); }
static bool bed_reached(void) { return reached(BED); }

static enum outcome hotend(const struct words *w) { return set(w, HOTEND); }
static enum outcome bed(const struct words *w) { return set(w, BED); }
static enum outcome hotend_wait(const struct words *w) { return set(w, HOTEND) == DONE ? going_on(hotend_reached) : FAILED; }
static enum outcome bed_wait(const struct words *w) { return set(w, BED) == DONE ? going_on(bed_reached) : FAILED; }

static int next_line;
static bool temperatures_on(void)
{
    if (next_line == heat_lines()) return true;
    heat_tell(next_line++);
    return false;
}

static enum outcome temperatures(const struct words *w)
{
    (void)w;
    next_line = 0;
    return telling(temperatures_on);
}

const struct command HEAT_COMMANDS[] = {
    {NULL, 'M', 104, false, false, "S", NULL, hotend},
    {NULL, 'M', 109, false, false, "S", NULL, hotend_wait},
    {NULL, 'M', 140, false, false, "S", NULL, bed},
    {NULL, 'M', 190, false, false, "S", NULL, bed_wait},
    {NULL, 'M', 105, true, false, NULL, NULL, temperatures},
    NO_COMMAND,
};
