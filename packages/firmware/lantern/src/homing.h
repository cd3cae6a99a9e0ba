/* homing.h: finding each axis' place. */
#pragma once
#include "hw.h"
/* Bits of axes to home; false with a printed error when something needed is missing. */
bool homing_begin(uint8_t axes);
/* Advances; true when nothing is left to do. Called every millisecond. */
bool homing_done(void);
void homing_abandon(void);
bool homed(int axis);
void homing_forget(void);
bool homing_under_way(void);
