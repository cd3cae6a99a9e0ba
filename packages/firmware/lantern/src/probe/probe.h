/* probe.h: the bed probe. Without one these compile to nothing. */
#pragma once
#include "hal/input.h"
#include "proto/commands.h"
void probe_start(void);
/* Its input; the pin is -1 where there is no probe. */
const struct input *probe_input(void);
void probe_deploy(bool out);
/* How long to wait after it was let out or drawn in, ms. */
uint16_t probe_ticks(void);
bool probe_deployed(void);
extern const struct command PROBE_COMMANDS[];
