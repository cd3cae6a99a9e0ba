/* tram.h: from screw to screw while you turn them. */
#pragma once
#include "option_shape.h"
#include "proto/commands.h"
extern const struct command TRAM_COMMANDS[];
