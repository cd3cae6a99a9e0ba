/* repeat.h: how well the probe finds the same height again. */
#pragma once
#include "option_probe.h"
#include "option_sense.h"
#include "proto/commands.h"
#define HAS_REPEAT (PROBE_REPEAT && PROBE_KIND != PROBE_KIND_NONE)
#if HAS_REPEAT
extern const struct command REPEAT_COMMANDS[];
#endif
