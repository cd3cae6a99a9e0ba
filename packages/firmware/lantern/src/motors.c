#include "motors.h"
#include "axes.h"
#include "option_direction.h"
#include "pins_motors.h"

static const int16_t STEP[AXES] = {PIN_X_STEP, PIN_Y_STEP, PIN_Z_STEP, PIN_E_STEP};
static const int16_t DIR[AXES] = {PIN_X_DIR, PIN_Y_DIR, PIN_Z_DIR, PIN_E_DIR};
static const int16_t ENABLE[AXES] = {PIN_X_ENABLE, PIN_Y_ENABLE, PIN_Z_ENABLE, PIN_E_ENABLE};
static const bool REVERSED[AXES] = {DIRECTION_X, DIRECTION_Y, DIRECTION_Z, DIRECTION_E};

void motors_start(void)
{
    for (int i = 0; i < AXES; i++) {
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
    for (int i = 0; i < AXES; i++)
        if (ENABLE[i] >= 0) hw_pin_write(ENABLE[i], !on);
}

void motor_direction(int motor, bool plus)
{
    if (DIR[motor] >= 0) hw_pin_write(DIR[motor], plus != REVERSED[motor]);
}

void motor_step(int motor)
{
    if (STEP[motor] >= 0) hw_step(STEP[motor]);
}
