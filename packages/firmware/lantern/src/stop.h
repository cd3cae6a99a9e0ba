/* stop.h: everything off. */
#pragma once
#include "hw.h"
/* Heat and motion off at once; nothing moves or heats again until the restart command or a power cycle. */
void stop_now(const char *because);
bool stopped(void);
const char *stopped_because(void);
void stop_clear(void);
