/* heaters.h: what is heated. */
#pragma once
#include "option_motion.h"
#if EXTRUDER_SECOND
enum { HOTEND, BED, CHAMBER, HOTEND_2, HEATERS };
#else
enum { HOTEND, BED, CHAMBER, HEATERS };
#endif
