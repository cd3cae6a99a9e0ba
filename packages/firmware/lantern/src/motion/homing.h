/* homing.h: finding each axis' place. */
#pragma once
#include "hal/hw.h"
/* Bits of axes to home; NULL, or why it cannot begin. */
const char *homing_begin(uint8_t axes);
/* Advances; true when nothing is left to do. Asked every millisecond. */
bool homing_done(void);
void homing_abandon(void);
bool homed(int axis);
/* An axis stands where it was declared to, by somebody who knows. */
void homing_believe(int axis);
void homing_forget(void);
void homing_forget_axis(int axis);
bool homing_under_way(void);
/* Z was found with the probe, so that its place hangs on the probe's offset. */
bool homed_by_probe(void);
