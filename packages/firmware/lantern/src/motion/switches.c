/* switches.c: which pin each switch is read on, and how it reads when pressed. */
#include "motion/switches.h"
#include "motion/axes.h"
#include "option_switches.h"
#include "pins_switches.h"

static const struct input SWITCH[HOMED_AXES] = {
    {PIN_X_SWITCH, SWITCH_X_PULL_UP, SWITCH_X_PRESSED == SWITCH_X_PRESSED_HIGH},
    {PIN_Y_SWITCH, SWITCH_Y_PULL_UP, SWITCH_Y_PRESSED == SWITCH_Y_PRESSED_HIGH},
    {PIN_Z_SWITCH, SWITCH_Z_PULL_UP, SWITCH_Z_PRESSED == SWITCH_Z_PRESSED_HIGH},
};

void switches_start(void)
{
    for (int i = 0; i < HOMED_AXES; i++) input_start(&SWITCH[i]);
}

const struct input *switch_of(int axis) { return &SWITCH[axis]; }
