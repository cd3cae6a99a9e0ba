/* shape.c: the sum of what there is. */
#include "bed/shape.h"
#include "bed/map.h"
#include "bed/tilt.h"
#include "core/number.h"
#include "core/settings.h"
#include "option_map.h"

#if HAS_SHAPE
/* 0: the map acts at every height. */
static const float FADE = MAP_FADE;

static float steady(float x, float y)
{
    (void)x;
    (void)y;
    float lift = 0;
#if NUDGE_ON
    lift += setting[SET_NUDGE_START];
#endif
#if HAS_TILT
    /* A map holds all that the plate does, its tilt too. */
    if (!shape_bends()) lift += tilt_at(x, y);
#endif
    return lift;
}

static float mapped(float x, float y)
{
#if HAS_MAP
    return map_at(x, y);
#else
    (void)x;
    (void)y;
    return 0;
#endif
}

float shape_lift(float x, float y, float z)
{
    float left = 1;
    if (FADE > 0 && z > 0) left = z < FADE ? 1 - z / FADE : 0;
    return steady(x, y) + (left > 0 ? left * mapped(x, y) : 0);
}

float shape_told(float x, float y, float z)
{
    float height = z - steady(x, y), map = mapped(x, y);
    if (FADE <= 0 || height - map <= 0) return height - map;
    float told = (height - map) / (1 - map / FADE);
    return told < FADE ? told : height;
}

bool shape_bends(void) { return map_in_use(); }
#endif
