#include "switches.h"
#include "axes.h"
#include "option_switches.h"
#include "pins_switches.h"

static const int16_t PIN[HOMED_AXES] = {PIN_X_SWITCH, PIN_Y_SWITCH, PIN_Z_SWITCH};
static const bool PULL_UP[HOMED_AXES] = {SWITCH_X_PULL_UP, SWITCH_Y_PULL_UP, SWITCH_Z_PULL_UP};
static const bool PRESSED_HIGH[HOMED_AXES] = {
    SWITCH_X_PRESSED == SWITCH_X_PRESSED_HIGH, SWITCH_Y_PRESSED == SWITCH_Y_PRESSED_HIGH, SWITCH_Z_PRESSED == SWITCH_Z_PRESSED_HIGH};

void switches_start(void)
{
    for (int i = 0; i < HOMED_AXES; i++)
        if (PIN[i] >= 0) hw_pin_mode(PIN[i], PULL_UP[i] ? PIN_INPUT_PULL_UP : PIN_INPUT);
}

bool switch_there(int axis) { return PIN[axis] >= 0; }
bool switch_pressed(int axis) { return PIN[axis] >= 0 && (hw_pin_read(PIN[axis]) != 0) == PRESSED_HIGH[axis]; }
