/* stepper.h: blocks become segments of about two milliseconds, prepared ahead and handed to the board as runs of steps. */
#pragma once
#include "hal/hw.h"
/* Hands over as many segments as the board takes. */
void stepper_feed(void);
/* Nothing is left of the block that was begun, nor plays on the board. */
bool stepper_idle(void);
/* Forgets what is left of the block, and what plays. */
void stepper_clear(void);
