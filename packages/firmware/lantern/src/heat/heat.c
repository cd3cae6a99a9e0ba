/* heat.c: ten times a second: read, watch, steer. */
#include "heat/heat.h"
#include "core/stop.h"
#include "heat/control.h"
#include "heat/guard.h"
#include "heat/sensor.h"
#include "heat/tune.h"
#include "messages.h"
#include "motion/tools.h"
#include "option_heat.h"
#include "option_presets.h"
#include "option_sensors.h"
#include "pins_heat.h"
#include "proto/print.h"

_Static_assert(HEAT_HOTEND_MAX <= SENSOR_HOTEND_LIMIT_C, "[heat.hotend.max] the hot end may be set hotter than its sensor stands");
#if EXTRUDER_SECOND
_Static_assert(HEAT_SECOND_HOTEND_MAX <= SENSOR_SECOND_HOTEND_LIMIT_C, "[heat.second-hotend.max] the second hot end may be set hotter than its sensor stands");
#endif
_Static_assert(!BED_HEATED || HEAT_BED_MAX <= SENSOR_BED_LIMIT_C, "[heat.bed.max] the bed may be set hotter than its sensor stands");
_Static_assert(PIN_CHAMBER_HEATER < 0 || PIN_CHAMBER_SENSOR >= 0, "[sensor.chamber] the chamber is heated but has no sensor connected");
_Static_assert(PIN_HOTEND_HEATER < 0 || PIN_HOTEND_SENSOR >= 0, "[sensor.hotend] the hot end is heated but has no sensor connected");

enum { PERIOD_TICKS = 100, PATIENCE = 20 };
#define REACHED_C 2.0f
/* A target may be the highest; control may swing this far above it. */
#define ABOVE_MAX_C 10.0f

#define CYCLE(s) ((uint32_t)((s) * 1e6f))
static const struct {
    int16_t pin;
    uint32_t cycle_us;
    float min_c, max_c;
    const char *name, *about;
} HEATER[HEATERS] = {
    {PIN_HOTEND_HEATER, CYCLE(HEAT_HOTEND_CYCLE), HEAT_HOTEND_MIN, HEAT_HOTEND_MAX, "hotend", "hotend "},
    {BED_HEATED ? PIN_BED_HEATER : -1, CYCLE(HEAT_BED_CYCLE), HEAT_BED_MIN, HEAT_BED_MAX, "bed", "bed "},
    {PIN_CHAMBER_HEATER, CYCLE(HEAT_CHAMBER_CYCLE), HEAT_CHAMBER_MIN, HEAT_CHAMBER_MAX, "chamber", "chamber "},
#if EXTRUDER_SECOND
    {PIN_HOTEND_2_HEATER, CYCLE(HEAT_SECOND_HOTEND_CYCLE), HEAT_SECOND_HOTEND_MIN, HEAT_SECOND_HOTEND_MAX, "hotend-2", "hotend-2 "},
#endif
};

float lantern_guard(int index);

/* Asked of the linked image, after the order in kit.yaml, before a build is called done. */
enum { TOLD_PER_HEATER = GUARD_VALUES + 2 };
EXPORT(lantern_guard) float lantern_guard(int index)
{
    int heater = index / TOLD_PER_HEATER, what = index % TOLD_PER_HEATER;
    if (index < 0 || heater >= HEATERS) return -1;
    if (what < GUARD_VALUES) return guard_told(heater, what);
    return what == GUARD_VALUES ? HEATER[heater].min_c : HEATER[heater].max_c;
}

static float target[HEATERS], now[HEATERS], duty[HEATERS];
static uint8_t odd[HEATERS], ticks;

bool heater_there(int heater) { return HEATER[heater].pin >= 0; }
float heat_now(int heater) { return now[heater]; }
bool heat_known(int heater) { return now[heater] >= HEATER[heater].min_c; }
float heat_target(int heater) { return target[heater]; }

static void drive(int heater, float share)
{
    duty[heater] = share;
    if (heater_there(heater)) hw_pwm(HEATER[heater].pin, HEATER[heater].cycle_us, (uint32_t)(share * (float)HEATER[heater].cycle_us));
}

void heat_start(void)
{
    guard_reset();
    for (int i = 0; i < HEATERS; i++) {
        if (!heater_there(i)) continue;
        hw_pin_mode(HEATER[i].pin, PIN_OUTPUT);
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
#if TUNE_ON
    tune_stop();
#endif
}

/* A single odd reading is noise; a row of them is a broken sensor or a runaway. */
static bool out_of_range(int heater)
{
    bool bad = now[heater] < HEATER[heater].min_c || now[heater] > HEATER[heater].max_c + ABOVE_MAX_C;
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
        stop_now(HEATER[heater].about, now[heater] < HEATER[heater].min_c ? MSG_SENSOR_OPEN : MSG_SENSOR_SHORT);
        return;
    }
    if (guard_trips(heater, target[heater], now[heater], duty[heater])) {
        stop_now(HEATER[heater].about, MSG_NOT_FOLLOWED);
        return;
    }
#if TUNE_ON
    if (tune_steers(heater)) { drive(heater, tune_duty(now[heater])); return; }
#endif
    drive(heater, target[heater] > 0 ? control_duty(heater, target[heater], now[heater]) : 0);
}

#if HAS_SPARE
/* Two sensors of one hot end that part: one of them has slipped out or breaks. */
#define PARTED_C 25.0f
static uint8_t parted;

static void compare(void)
{
    float off = sensor_c(SPARE) - now[HOTEND];
    parted = off > PARTED_C || off < -PARTED_C ? (uint8_t)(parted + 1) : 0;
    if (parted < PATIENCE || stopped()) return;
    parted = 0;
    stop_now(HEATER[HOTEND].about, MSG_SENSORS_PART);
}
#endif

void heat_tick(void)
{
    if (++ticks < PERIOD_TICKS) return;
    ticks = 0;
    for (int i = 0; i < HEATERS; i++) {
        if (heater_there(i)) watch_and_steer(i);
        else if (sensor_there(i)) now[i] = sensor_c(i);
    }
#if HAS_SPARE
    compare();
#endif
}

bool heat_wanted(void)
{
    for (int i = 0; i < HEATERS; i++)
        if (target[i] > 0) return true;
    return false;
}

/* The body of a line: those with a heater or a sensor, in their order. */
static int body_of(int line)
{
    for (int i = 0; i < HEATERS; i++)
        if (sensor_there(i) && line-- == 0) return i;
    return HEATERS;
}

int heat_lines(void)
{
    int count = 0;
    while (body_of(count) < HEATERS) count++;
    return count;
}

void heat_tell(int line)
{
    int i = body_of(line);
    if (i == HEATERS) return;
    print("heat");
    print_name("body");
    print(HEATER[i].name);
    print_name("now");
    print_float(now[i], 1);
    print_name("target");
    print_float(target[i], 1);
    print_name("duty");
    print_float(duty[i], 2);
    print_end();
}

bool heat_reached(int heater)
{
    float off = target[heater] - now[heater];
    return target[heater] == 0 || (off < REACHED_C && off > -REACHED_C);
}

const char *heat_set(int heater, float c)
{
    if (!heater_there(heater)) return MSG_NO_HEATER;
    if (!(c >= 0 && c <= HEATER[heater].max_c)) return MSG_TARGET_RANGE;
    if (c != target[heater]) control_reset(heater);
    target[heater] = c;
    return NULL;
}

static enum outcome set(const struct words *w, int heater)
{
    return has(w, 'S') ? done_unless(heat_set(heater, word(w, 'S', 0))) : fail(MSG_TARGET_MISSING);
}

/* T0 and T1 name a hot end; without it, that of the tool in use is meant. */
#if EXTRUDER_SECOND
#define HOTEND_WORDS "ST"
static enum outcome hotend_of(const struct words *w, int *heater)
{
    float tool = word(w, 'T', 0);
    if (tool != 0 && tool != 1) return fail(MSG_NO_TOOL);
    *heater = !has(w, 'T') ? tool_hotend() : tool == 1 ? HOTEND_2 : HOTEND;
    return DONE;
}
#else
#define HOTEND_WORDS "S"
static enum outcome hotend_of(const struct words *w, int *heater)
{
    (void)w;
    *heater = HOTEND;
    return DONE;
}
#endif

static int awaited;
static bool warming;

/* Switched off meanwhile, it is not reached. */
static bool reached(void) { return warming && target[awaited] == 0 ? failed(MSG_COOLED) : heat_reached(awaited); }

static enum outcome set_and_wait(const struct words *w, int heater)
{
    if (set(w, heater) != DONE) return FAILED;
    awaited = heater;
    warming = target[heater] > 0;
    return going_on(reached);
}

static enum outcome hotend(const struct words *w)
{
    int heater = HOTEND;
    return hotend_of(w, &heater) == DONE ? set(w, heater) : FAILED;
}
static enum outcome bed(const struct words *w) { return set(w, BED); }
static enum outcome hotend_wait(const struct words *w)
{
    int heater = HOTEND;
    return hotend_of(w, &heater) == DONE ? set_and_wait(w, heater) : FAILED;
}
static enum outcome bed_wait(const struct words *w) { return set_and_wait(w, BED); }

#if PIN_CHAMBER_HEATER >= 0
static enum outcome chamber(const struct words *w) { return set(w, CHAMBER); }
static enum outcome chamber_wait(const struct words *w) { return set_and_wait(w, CHAMBER); }
#endif

/* Both targets at once, of one of two presets. */
static enum outcome preheat(const struct words *w)
{
    static const float HOT[] = {PRESET_ONE_HOTEND, PRESET_TWO_HOTEND}, WARM[] = {PRESET_ONE_BED, PRESET_TWO_BED};
    float which = word(w, 'N', 1);
    if (which != 1 && which != 2) return fail(MSG_PRESET_RANGE);
    int i = which == 1 ? 0 : 1;
    const char *refused = heat_set(HOTEND, HOT[i]);
    if (!refused && heater_there(BED)) refused = heat_set(BED, WARM[i]);
    return done_unless(refused);
}

/* Does not wait behind what warms. */
static enum outcome cool(const struct words *w)
{
    (void)w;
    for (int i = 0; i < HEATERS; i++)
        if (heater_there(i)) heat_set(i, 0);
    return DONE;
}

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
    CODE('M', 104, 0, HOTEND_WORDS, NULL, hotend),
    CODE('M', 109, IN_PRINT, HOTEND_WORDS, NULL, hotend_wait),
    CODE('M', 140, 0, "S", NULL, bed),
    CODE('M', 190, IN_PRINT, "S", NULL, bed_wait),
#if PIN_CHAMBER_HEATER >= 0
    CODE('M', 141, 0, "S", NULL, chamber),
    CODE('M', 191, IN_PRINT, "S", NULL, chamber_wait),
#endif
    VERB("preheat", 0, "N", preheat),
    VERB("cool", AT_ONCE, NULL, cool),
    CODE('M', 105, ASLEEP_TOO, NULL, NULL, temperatures),
    NO_COMMAND,
};
