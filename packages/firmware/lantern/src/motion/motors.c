/* motors.c: which pins the motors have, and which way round each is plugged. */
#include "motion/motors.h"
#include "motion/axes.h"
#include "option_direction.h"
#include "pins_motors.h"

static const int16_t STEP[MOTORS] = {PIN_X_STEP, PIN_Y_STEP, PIN_Z_STEP, PIN_E_STEP};
static const int16_t DIR[MOTORS] = {PIN_X_DIR, PIN_Y_DIR, PIN_Z_DIR, PIN_E_DIR};
static const int16_t ENABLE[MOTORS] = {PIN_X_ENABLE, PIN_Y_ENABLE, PIN_Z_ENABLE, PIN_E_ENABLE};
static const bool REVERSED[MOTORS] = {DIRECTION_X, DIRECTION_Y, DIRECTION_Z, DIRECTION_E};
static bool enabled;

void motors_start(void)
{
    for (int i = 0; i < MOTORS; i++) {
        hw_motor(i, STEP[i], DIR[i]);
        if (STEP[i] < 0) continue;
        hw_pin_mode(STEP[i], PIN_OUTPUT);
        hw_pin_mode(DIR[i], PIN_OUTPUT);
        hw_pin_mode(ENABLE[i], PIN_OUTPUT);
    }
    motors_enable(false);
}

/* Drivers are enabled by a low level. */
void motors_enable(bool on)
{
    enabled = on;
    for (int i = 0; i < MOTORS; i++)
        if (ENABLE[i] >= 0) hw_pin_write(ENABLE[i], !on);
}

bool motors_enabled(void) { return enabled; }
uint8_t motor_level(int motor, bool plus) { return plus != REVERSED[motor]; }
int32_t motor_made(int motor) { return REVERSED[motor] ? -hw_steps_made(motor) : hw_steps_made(motor); }
