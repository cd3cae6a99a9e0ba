/* shape.h: how the nozzle follows the plate: the map (fading out with height) or the tilt taken out, and the live nudge.
 * Every move is raised by it; the place that is told is the place without it. */
#pragma once
#include "hal/hw.h"
#include "option_shape.h"
#include "option_sense.h"

#define HAS_PROBE (PROBE_KIND != PROBE_KIND_NONE)
#define HAS_TOUCHED_MAP (MAP_ON && HAS_PROBE)
#define HAS_MAP (HAS_TOUCHED_MAP || MAP_SHIM)
#define HAS_TILT (TILT_BY != TILT_BY_NO)
#define HAS_SHAPE (HAS_MAP || HAS_TILT || NUDGE_ON)

/* A place of the plate, mm. */
struct spot {
    float x, y;
};

#if HAS_SHAPE
/* How much higher the nozzle stands at a place than it is told to. */
float shape_lift(float x, float y, float z);
/* The height it is told to, where it stands at z. */
float shape_told(float x, float y, float z);
/* A straight way must be cut into short ones to follow it. */
bool shape_bends(void);
#else
static inline float shape_lift(float x, float y, float z) { (void)x; (void)y; (void)z; return 0; }
static inline float shape_told(float x, float y, float z) { (void)x; (void)y; return z; }
static inline bool shape_bends(void) { return false; }
#endif
