/* drivers.c: what each module is told at power-on and when a setting changes, and what it reports. */
#include "drivers/drivers.h"
#include "core/number.h"
#include "core/settings.h"
#include "core/stop.h"
#include "driver_table.h"
#include "motion/axes.h"
#include "motion/motors.h"
#include "option_stall.h"
#include "proto/print.h"

#if HAS_DRIVERS
/* One for each axis, then those of a second Z and a second extruder. A second Z is told what the first is. */
static const struct { int16_t line, address; } LINE[] = DRIVER_LINES;
static const uint8_t AXIS_OF[] = {X, Y, Z, E, Z, E};
enum { MODULES = sizeof AXIS_OF / sizeof *AXIS_OF };
_Static_assert(sizeof LINE / sizeof *LINE == MODULES, "a line for each module");
enum { QUIET, FULL_FORCE };
enum { ALWAYS_QUIET = INT32_MAX, NEVER_QUIET = 0 };

#define CHANGES_OVER(axis, mode) (TORQUE_##axis == TORQUE_##axis##_##mode)
static const uint8_t BY_SPEED[AXES] = {CHANGES_OVER(X, BY_SPEED), CHANGES_OVER(Y, BY_SPEED), CHANGES_OVER(Z, BY_SPEED), CHANGES_OVER(E, BY_SPEED)};
static const uint8_t ALWAYS[AXES] = {CHANGES_OVER(X, TORQUE), CHANGES_OVER(Y, TORQUE), CHANGES_OVER(Z, TORQUE), CHANGES_OVER(E, TORQUE)};

/* Where the current of a module stands among the settings, and the steps of its motor for a millimetre. */
static const uint8_t CURRENT_AT[MODULES] = {SET_CURRENT_X, SET_CURRENT_Y, SET_CURRENT_Z, SET_CURRENT_E, SET_CURRENT_Z, SET_CURRENT_SECOND_E};
static const uint8_t STEPS_AT[MODULES] = {SET_STEPS_X, SET_STEPS_Y, SET_STEPS_Z, SET_STEPS_E, SET_STEPS_Z, SET_STEPS_SECOND_E};

static bool hears(int module) { return LINE[module].line >= 0; }

static void tell(int module, int what, int32_t value)
{
    if (hears(module)) hw_driver_write(LINE[module].line, LINE[module].address, what, value);
}

/* The rate of steps from which it gives its full force. */
static int32_t changes_over(int module)
{
    int axis = AXIS_OF[module];
    if (ALWAYS[axis]) return NEVER_QUIET;
    return BY_SPEED[axis] ? nearest(TORQUE_FROM * setting[STEPS_AT[module]]) : ALWAYS_QUIET;
}

static void tell_all(int module)
{
    tell(module, DRIVER_CURRENT_MA, nearest(setting[CURRENT_AT[module]] * 1000));
    tell(module, DRIVER_FORCE_FROM, changes_over(module));
#if STALL_X
    if (module == X) tell(X, DRIVER_STALL_LEVEL, STALL_LEVEL_X);
#endif
#if STALL_Y
    if (module == Y) tell(Y, DRIVER_STALL_LEVEL, STALL_LEVEL_Y);
#endif
}

void drivers_start(void)
{
    for (int i = 0; i < MODULES; i++) tell_all(i);
}

void drivers_changed(int place, float before)
{
    (void)before;
    for (int i = 0; i < MODULES; i++)
        if (place == CURRENT_AT[i] || place == STEPS_AT[i]) tell_all(i);
}

/* A module without supply has forgotten what it was told, and nobody says when the supply comes: all are told again as the
 * motors are let in. */
static void tell_as_let_in(void)
{
    static bool let_in;
    if (motors_enabled() && !let_in) drivers_start();
    let_in = motors_enabled();
}

#if DRIVER_REPORT
enum { PERIOD_TICKS = 500 };
static const char *const NAME[MODULES] = {"x", "y", "z", "e", "z2", "e2"};
static const char *const ABOUT[MODULES] = {"X ", "Y ", "Z ", "E ", "second Z ", "second E "};
static int32_t state[MODULES];
static uint16_t ticks;

/* What is told of a state, worst first; the first two end everything. */
static const struct { int32_t bit; const char *word, *stops; } STATE[] = {
    {DRIVER_IS_OFF, "off", MSG_DRIVER_OFF},
    {DRIVER_IS_OPEN, "open", MSG_DRIVER_OPEN},
    {DRIVER_IS_HOT, "hot", NULL},
};
enum { STATES = sizeof STATE / sizeof *STATE };

static void look(int module)
{
    bool silent = state[module] < 0;
    state[module] = hw_driver_read(LINE[module].line, LINE[module].address, DRIVER_STATE);
    if (silent && state[module] >= 0) tell_all(module);
    if (state[module] < 0 || stopped() || !motors_enabled()) return;
    for (int i = 0; i < STATES; i++)
        if (state[module] & STATE[i].bit && STATE[i].stops) { stop_now(ABOUT[module], STATE[i].stops); return; }
}

static void look_round(void)
{
    if (++ticks < PERIOD_TICKS) return;
    ticks = 0;
    for (int i = 0; i < MODULES; i++)
        if (hears(i)) look(i);
}

static const char *word_of(int module)
{
    if (state[module] < 0) return "silent";
    for (int i = 0; i < STATES; i++)
        if (state[module] & STATE[i].bit) return STATE[i].word;
    return "well";
}

static int module_of(int line)
{
    for (int i = 0; i < MODULES; i++)
        if (hears(i) && line-- == 0) return i;
    return MODULES;
}

int drivers_lines(void)
{
    int count = 0;
    while (module_of(count) < MODULES) count++;
    return count;
}

void drivers_tell(int line)
{
    int module = module_of(line);
    if (module == MODULES) return;
    print("driver");
    print_name("axis");
    print(NAME[module]);
    print_name("state");
    print(word_of(module));
    if (state[module] >= 0) {
        print_name("amps");
        print_float(setting[CURRENT_AT[module]], 2);
        print_name("degrees");
        print_int(hw_driver_read(LINE[module].line, LINE[module].address, DRIVER_DEGREES));
    }
    print_end();
}
#endif

void drivers_tick(void)
{
    tell_as_let_in();
#if DRIVER_REPORT
    look_round();
#endif
}
#endif
