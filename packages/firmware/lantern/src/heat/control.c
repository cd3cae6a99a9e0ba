/* control.c: PID, or on and off, as each heater was set. */
#include "heat/control.h"
#include "core/number.h"
#include "core/settings.h"
#include "heat/heaters.h"
#include "option_control.h"

#define PERIOD_S 0.1f
#define FULL 255.0f
/* Outside it there is nothing to steer: all or nothing. */
#define BAND_C 10.0f
/* What was summed up is kept so far below: begun anew at every slip out of the band, it would never carry a hot body into it. */
#define FORGET_C 20.0f
#define SECOND_BY_PID (EXTRUDER_SECOND && CONTROL_SECOND_HOTEND == CONTROL_SECOND_HOTEND_PID)
#define BY_PID (CONTROL_HOTEND == CONTROL_HOTEND_PID || CONTROL_BED == CONTROL_BED_PID || SECOND_BY_PID)

static const uint8_t P_AT[HEATERS] = {
    SET_PID_HOTEND_P, SET_PID_BED_P, SET_PID_BED_P,
#if EXTRUDER_SECOND
    SET_PID_SECOND_HOTEND_P,
#endif
};
int control_pid(int heater) { return P_AT[heater]; }

#if BY_PID
static const bool STEERED[HEATERS] = {
    CONTROL_HOTEND == CONTROL_HOTEND_PID, CONTROL_BED == CONTROL_BED_PID, false,
#if EXTRUDER_SECOND
    SECOND_BY_PID,
#endif
};
/* The slope is smoothed over about a second: a chip tells a temperature in steps, and one step in a tenth of a second looks
 * like a leap. */
#define SMOOTHED 0.1f
static float sum[HEATERS], before[HEATERS], slope[HEATERS];
static bool fresh[HEATERS];

static float clamped(float value, float low, float high) { return larger(low, smaller(high, value)); }

static float by_pid(int heater, float target, float now)
{
    const float *k = &setting[P_AT[heater]];
    float off = target - now;
    if (off > BAND_C || off < -BAND_C) {
        if (off > FORGET_C || off < 0) sum[heater] = 0;
        fresh[heater] = true;
        return off > 0 ? 1 : 0;
    }
    float leap = fresh[heater] ? 0 : (now - before[heater]) / PERIOD_S;
    slope[heater] = fresh[heater] ? 0 : slope[heater] + SMOOTHED * (leap - slope[heater]);
    before[heater] = now;
    fresh[heater] = false;
    float added = clamped(sum[heater] + k[1] * off * PERIOD_S, 0, FULL);
    float wanted = k[0] * off + added - k[2] * slope[heater];
    /* Summed up only where it steers: while the rest asks for more than all or less than nothing, it would overshoot later. */
    if ((wanted > 0 && wanted < FULL) || added < sum[heater]) sum[heater] = added;
    return clamped(wanted / FULL, 0, 1);
}
#endif

/* Never more than its cap. */
static const float CAP[HEATERS] = {
    POWER_HOTEND / 100, POWER_BED / 100, 1,
#if EXTRUDER_SECOND
    POWER_SECOND_HOTEND / 100,
#endif
};

void control_reset(int heater)
{
#if BY_PID
    sum[heater] = 0;
    fresh[heater] = true;
#else
    (void)heater;
#endif
}

float control_cap(int heater) { return CAP[heater]; }

float control_duty(int heater, float target, float now)
{
#if BY_PID
    if (STEERED[heater]) return smaller(CAP[heater], by_pid(heater, target, now));
#endif
    return now < target ? CAP[heater] : 0;
}
