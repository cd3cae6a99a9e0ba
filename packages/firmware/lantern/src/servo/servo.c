/* servo.c: a pulse width, and the time until the arm is there. */
#include "servo/servo.h"
#include "core/number.h"
#include "pins_servo.h"
#include "proto/print.h"

#if SERVO_COUNT > 0
enum { PERIOD_US = 20000, SHORTEST_US = 400, LONGEST_US = 2600 };
static const int16_t PIN[] = {PIN_SERVO_A, PIN_SERVO_B, PIN_SERVO_C, PIN_SERVO_D};
static const uint16_t ARRIVES_MS[] = {(uint16_t)(SERVO_ARRIVE_A * 1000), (uint16_t)(SERVO_ARRIVE_B * 1000),
                                      (uint16_t)(SERVO_ARRIVE_C * 1000), (uint16_t)(SERVO_ARRIVE_D * 1000)};
static uint16_t left, told[SERVO_COUNT];

static bool arrived(void) { return left == 0 || --left == 0; }

/* n which, from 1; w the pulse in µs. */
static enum outcome servo(const struct words *w)
{
    int which = nearest(word(w, 'N', 1)) - 1, us = nearest(word(w, 'W', 0));
    if (which < 0 || which >= SERVO_COUNT) return fail(MSG_NO_SERVO);
    if (PIN[which] < 0) return fail(MSG_NOT_CONNECTED);
    if (us < SHORTEST_US || us > LONGEST_US) return fail(MSG_PULSE_RANGE);
    hw_pwm(PIN[which], PERIOD_US, (uint32_t)us);
    told[which] = (uint16_t)us;
    left = ARRIVES_MS[which];
    return going_on(arrived);
}

int servo_lines(void) { return 1; }

void servo_tell(int line)
{
    (void)line;
    static const char *const NAME[] = {"a", "b", "c", "d"};
    print("servo");
    for (int i = 0; i < SERVO_COUNT; i++) {
        print_name(NAME[i]);
        print_int(told[i]);
    }
    print_end();
}

const struct command SERVO_COMMANDS[] = {
    VERB("servo", 0, "NW", servo),
    NO_COMMAND,
};
#endif
