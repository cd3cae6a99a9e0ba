/* stop.h: everything off. */
#pragma once
#include "hal/hw.h"
/* Heat and motion off at once; nothing moves or heats again until `wake` or a power cycle. What it is about ("X ", or
 * nothing) and why; the first reason stays. */
STANDS void stop_now(const char *about, const char *because);
bool stopped(void);
/* Prints what it is about and why. */
void stop_print(void);
void stop_clear(void);
