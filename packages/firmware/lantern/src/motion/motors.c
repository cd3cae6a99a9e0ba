/* motors.c: which pins the motors have, and which way round each is plugged. */
#include "motion/motors.h"
#include "motion/axes.h"
#include "option_direction.h"
#include "option_pulse.h"
#include "pins_motors.h"

static const struct { int16_t step, dir, enable; bool reversed; } MOTOR[MOTORS] = {
    {PIN_X_STEP, PIN_X_DIR, PIN_X_ENABLE, DIRECTION_X},
    {PIN_Y_STEP, PIN_Y_DIR, PIN_Y_ENABLE, DIRECTION_Y},
    {PIN_Z_STEP, PIN_Z_DIR, PIN_Z_ENABLE, DIRECTION_Z},
    {PIN_E_STEP, PIN_E_DIR, PIN_E_ENABLE, DIRECTION_E},
#if SECOND_Z_ON
    {PIN_Z2_STEP, PIN_Z2_DIR, PIN_Z2_ENABLE, DIRECTION_Z},
#endif
#if EXTRUDER_SECOND
    {PIN_E2_STEP, PIN_E2_DIR, PIN_E2_ENABLE, DIRECTION_SECOND_E},
#endif
};
#if EXTRUDER_SECOND
_Static_assert(PIN_E2_STEP >= 0, "[extruder.second] no second extruder motor sits on a driver of its own");
#endif
#if SECOND_Z_ON
_Static_assert(PIN_Z2_STEP >= 0, "[second-z.on] no second Z motor sits on a driver of its own");
#endif
static bool enabled;

void motors_start(void)
{
    for (int i = 0; i < MOTORS; i++) {
        hw_motor(i, MOTOR[i].step, MOTOR[i].dir, (uint32_t)(PULSE_WIDTH * 1000), (uint32_t)(PULSE_SETUP * 1000));
        if (MOTOR[i].step < 0) continue;
        hw_pin_mode(MOTOR[i].step, PIN_OUTPUT);
        hw_pin_mode(MOTOR[i].dir, PIN_OUTPUT);
        hw_pin_mode(MOTOR[i].enable, PIN_OUTPUT);
    }
    motors_enable(false);
}

/* Drivers are enabled by a low level. */
void motors_enable(bool on)
{
    enabled = on;
    for (int i = 0; i < MOTORS; i++)
        if (MOTOR[i].enable >= 0) hw_pin_write(MOTOR[i].enable, !on);
}

bool motors_enabled(void) { return enabled; }
uint8_t motor_level(int motor, bool plus) { return plus != MOTOR[motor].reversed; }
int32_t motor_made(int motor) { return MOTOR[motor].reversed ? -hw_steps_made(motor) : hw_steps_made(motor); }
