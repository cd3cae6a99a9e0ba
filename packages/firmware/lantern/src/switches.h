/* switches.h: endstop switches. */
#pragma once
#include "hw.h"
void switches_start(void);
bool switch_there(int axis);
bool switch_pressed(int axis);
