#include "guard.h"
#include "option_guard.h"
#include "settings.h"

enum { PER_SECOND = 10 };
static const struct { bool on; float rise, drop; uint16_t rise_s, drop_s; } GUARD[HEATERS] = {
    {GUARD_HOTEND, GUARD_HOTEND_RISE, GUARD_HOTEND_DROP, GUARD_HOTEND_RISE_TIME, GUARD_HOTEND_DROP_TIME},
    {GUARD_BED, GUARD_BED_RISE, GUARD_BED_DROP, GUARD_BED_RISE_TIME, GUARD_BED_DROP_TIME},
};

/* Read from the table that guards, so that what is told is what is done. */
float guard_told(int heater, int what)
{
    switch (what) {
    case 0: return GUARD[heater].on;
    case 1: return GUARD[heater].rise;
    case 2: return GUARD[heater].rise_s;
    case 3: return GUARD[heater].drop;
    default: return GUARD[heater].drop_s;
    }
}

static float mark[HEATERS];
static uint16_t count[HEATERS];
static bool holding[HEATERS];

void guard_restart(int heater, float now)
{
    mark[heater] = now;
    count[heater] = 0;
    holding[heater] = false;
}

bool guard_trips(int heater, float target, float now)
{
    if (!GUARD[heater].on) return false;
    if (!holding[heater]) {
        if (now >= target - GUARD[heater].drop / 2) { holding[heater] = true; count[heater] = 0; return false; }
        if (now >= mark[heater] + GUARD[heater].rise) { mark[heater] = now; count[heater] = 0; return false; }
        return ++count[heater] > GUARD[heater].rise_s * PER_SECOND;
    }
    if (now >= target - GUARD[heater].drop) { count[heater] = 0; return false; }
    return ++count[heater] > GUARD[heater].drop_s * PER_SECOND;
}
