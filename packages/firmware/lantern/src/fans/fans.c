/* fans.c: ten times a second each fan is looked after; what you ask for takes effect at once. */
#include "fans/fans.h"
#include "heat/heat.h"
#include "motion/motors.h"
#include "proto/print.h"

#if HAS_FANS
enum { PERIOD_TICKS = 100, CYCLE_US = 4000 };
#define FULL 255.0f

static void blow(int pin, float share)
{
    if (pin >= 0) hw_pwm(pin, CYCLE_US, (uint32_t)(share * (float)CYCLE_US));
}

#if PIN_HOTEND_FAN >= 0
/* It goes off so far below the temperature at which it went on. */
#define LESS_C 3.0f
static bool hotend_on;

/* One whose sensor is open may be hot: it is cooled. */
static bool warm(int hotend, float from) { return heat_now(hotend) > from || !heat_known(hotend); }

/* One fan cools both of two hot ends. */
static bool any_warm(float from)
{
#if EXTRUDER_SECOND
    if (warm(HOTEND_2, from)) return true;
#endif
    return warm(HOTEND, from);
}

static void look_after_hotend(void)
{
    bool on = any_warm(FAN_HOTEND_FROM - (hotend_on ? LESS_C : 0));
    if (on == hotend_on) return;
    hotend_on = on;
    blow(PIN_HOTEND_FAN, on);
}
#endif

#if PIN_BOARD_FAN >= 0
/* Drivers are warm for a while after the last move. */
enum { LASTS = 600 };
static uint16_t lasts;
static bool board_on;

static bool board_wanted(void)
{
#if FAN_BOARD_BY == FAN_BOARD_BY_ALWAYS
    return true;
#elif FAN_BOARD_BY == FAN_BOARD_BY_WITH_MOTION
    return motors_enabled();
#else
    return heat_wanted();
#endif
}

static void look_after_board(void)
{
    if (board_wanted()) lasts = LASTS;
    else if (lasts) lasts--;
    bool on = lasts > 0;
    if (on == board_on) return;
    board_on = on;
    blow(PIN_BOARD_FAN, on);
}
#endif

static float part_share;
#if HAS_LAMP
static float lamp_share;
#endif
static uint8_t ticks;

void fans_start(void)
{
    static const int16_t PIN[] = {PIN_PART_FAN, PIN_HOTEND_FAN, PIN_BOARD_FAN, PIN_LAMP};
    for (int i = 0; i < 4; i++)
        if (PIN[i] >= 0) hw_pin_mode(PIN[i], PIN_OUTPUT);
}

void fans_tick(void)
{
    if (++ticks < PERIOD_TICKS) return;
    ticks = 0;
#if PIN_HOTEND_FAN >= 0
    look_after_hotend();
#endif
#if PIN_BOARD_FAN >= 0
    look_after_board();
#endif
}

float fan_part(void) { return part_share; }

void fan_part_put(float share)
{
    part_share = share;
    blow(PIN_PART_FAN, share);
}

/* The part fan stops with the print; what cools hot end and drivers goes on by itself. */
void fans_stop(void) { fan_part_put(0); }

int fans_lines(void) { return 1; }

static void tell(const char *name, int pin, float share)
{
    if (pin < 0) return;
    print_name(name);
    print_float(share, 2);
}

void fans_tell(int line)
{
    (void)line;
    print("fan");
#if FAN_PART
    tell("part", PIN_PART_FAN, part_share);
#endif
#if PIN_HOTEND_FAN >= 0
    tell("hotend", PIN_HOTEND_FAN, hotend_on);
#endif
#if PIN_BOARD_FAN >= 0
    tell("board", PIN_BOARD_FAN, board_on);
#endif
#if HAS_LAMP
    tell("lamp", PIN_LAMP, lamp_share);
#endif
    print_end();
}

#if FAN_PART || HAS_LAMP
/* S, 0 to 255; all of it without. Negative when it is neither. */
static float share_of(const struct words *w)
{
    float s = word(w, 'S', FULL);
    return s >= 0 && s <= FULL ? s / FULL : -1;
}

static enum outcome set(int pin, float *share, float wanted)
{
    if (pin < 0) return fail(MSG_NOT_CONNECTED);
    if (wanted < 0) return fail(MSG_SHARE_RANGE);
    *share = wanted;
    blow(pin, wanted);
    return DONE;
}
#endif

#if FAN_PART
static enum outcome part_on(const struct words *w) { return set(PIN_PART_FAN, &part_share, share_of(w)); }
static enum outcome part_off(const struct words *w) { (void)w; return set(PIN_PART_FAN, &part_share, 0); }
#endif
#if HAS_LAMP
static enum outcome lamp(const struct words *w) { return set(PIN_LAMP, &lamp_share, share_of(w)); }
#endif

const struct command FAN_COMMANDS[] = {
#if FAN_PART
    CODE('M', 106, 0, "S", NULL, part_on),
    CODE('M', 107, 0, NULL, NULL, part_off),
#endif
#if HAS_LAMP
    VERB("lamp", ASLEEP_TOO, "S", lamp),
#endif
    NO_COMMAND,
};
#endif
