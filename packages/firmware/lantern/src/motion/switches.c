/* switches.c: which pin each switch is read on, and how it reads when pressed. */
#include "motion/switches.h"
#include "motion/axes.h"
#include "option_stall.h"
#include "option_switches.h"
#include "pins_switches.h"

/* An axis that homes by stalling reads its driver's stall output: high while the motor stands. */
static const struct input SWITCH[HOMED_AXES] = {
#if STALL_X
    {PIN_X_STALL, false, true},
#else
    {PIN_X_SWITCH, SWITCH_X_PULL_UP, SWITCH_X_PRESSED == SWITCH_X_PRESSED_HIGH},
#endif
#if STALL_Y
    {PIN_Y_STALL, false, true},
#else
    {PIN_Y_SWITCH, SWITCH_Y_PULL_UP, SWITCH_Y_PRESSED == SWITCH_Y_PRESSED_HIGH},
#endif
    {PIN_Z_SWITCH, SWITCH_Z_PULL_UP, SWITCH_Z_PRESSED == SWITCH_Z_PRESSED_HIGH},
};
#if STALL_X
_Static_assert(PIN_X_STALL >= 0, "[stall.x] the socket of X has no stall line");
#endif
#if STALL_Y
_Static_assert(PIN_Y_STALL >= 0, "[stall.y] the socket of Y has no stall line");
#endif

void switches_start(void)
{
    for (int i = 0; i < HOMED_AXES; i++) input_start(&SWITCH[i]);
}

const struct input *switch_of(int axis) { return &SWITCH[axis]; }
