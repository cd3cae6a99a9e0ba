/* switches.h: endstop switches. */
#pragma once
#include "hal/input.h"
void switches_start(void);
/* The switch of an axis; its pin is -1 where there is none. */
const struct input *switch_of(int axis);
