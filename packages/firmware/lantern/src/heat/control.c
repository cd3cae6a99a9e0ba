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
#define BY_PID (CONTROL_HOTEND == CONTROL_HOTEND_PID || CONTROL_BED == CONTROL_BED_PID)

#if BY_PID
static const bool STEERED[HEATERS] = {CONTROL_HOTEND == CONTROL_HOTEND_PID, CONTROL_BED == CONTROL_BED_PID};
static const uint8_t P_AT[HEATERS] = {SET_PID_HOTEND_P, SET_PID_BED_P};
static float sum[HEATERS], before[HEATERS];
static bool fresh[HEATERS];

static float clamped(float value, float low, float high) { return larger(low, smaller(high, value)); }

static float by_pid(int heater, float target, float now)
{
    const float *k = &setting[P_AT[heater]];
    float off = target - now;
    if (off > BAND_C || off < -BAND_C) {
        sum[heater] = 0;
        fresh[heater] = true;
        return off > 0 ? 1 : 0;
    }
    /* The sum alone may never ask for more than full duty, or it would overshoot after a long climb. */
    sum[heater] = clamped(sum[heater] + k[1] * off * PERIOD_S, 0, FULL);
    float slope = fresh[heater] ? 0 : (now - before[heater]) / PERIOD_S;
    before[heater] = now;
    fresh[heater] = false;
    return clamped((k[0] * off + sum[heater] - k[2] * slope) / FULL, 0, 1);
}
#endif

void control_reset(int heater)
{
#if BY_PID
    sum[heater] = 0;
    fresh[heater] = true;
#else
    (void)heater;
#endif
}

float control_duty(int heater, float target, float now)
{
#if BY_PID
    if (STEERED[heater]) return by_pid(heater, target, now);
#else
    (void)heater;
#endif
    return now < target ? 1 : 0;
}
