#include "control.h"
#include "hw.h"
#include "option_control.h"
#include "settings.h"

#define PERIOD_S 0.1f
#define FULL 255.0f
#define BAND_C 10.0f

#if CONTROL_HOTEND == CONTROL_HOTEND_PID || CONTROL_BED == CONTROL_BED_PID
static float sum[HEATERS], before[HEATERS];
static bool fresh[HEATERS];

static float clamped(float value, float low, float high) { return value < low ? low : value > high ? high : value; }

static float by_pid(int heater, float target, float now)
{
    const struct pid *k = &settings.pid[heater];
    float off = target - now;
    if (off > BAND_C) { sum[heater] = 0; fresh[heater] = true; return 1; }
    if (off < -BAND_C) { sum[heater] = 0; fresh[heater] = true; return 0; }
    /* The sum alone may never ask for more than full duty, or it would overshoot after a long climb. */
    sum[heater] = clamped(sum[heater] + k->i * off * PERIOD_S, 0, FULL);
    float slope = fresh[heater] ? 0 : (now - before[heater]) / PERIOD_S;
    before[heater] = now;
    fresh[heater] = false;
    return clamped((k->p * off + sum[heater] - k->d * slope) / FULL, 0, 1);
}
#endif

void control_reset(int heater)
{
#if CONTROL_HOTEND == CONTROL_HOTEND_PID || CONTROL_BED == CONTROL_BED_PID
    sum[heater] = 0;
    fresh[heater] = true;
#else
    (void)heater;
#endif
}

float control_duty(int heater, float target, float now)
{
#if CONTROL_HOTEND == CONTROL_HOTEND_PID
    if (heater == HOTEND) return by_pid(heater, target, now);
#endif
#if CONTROL_BED == CONTROL_BED_PID
    if (heater == BED) return by_pid(heater, target, now);
#endif
    return now < target ? 1 : 0;
}
