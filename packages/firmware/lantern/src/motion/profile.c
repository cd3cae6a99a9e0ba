/* profile.c: a trapezoid of speed. The peak of one that is never held: v² = (u² + w²) / 2 + a s. Smooth, each slope of it is
 * an S of the same length and duration whose steepest place is the acceleration allowed. */
#include "motion/profile.h"
#include "core/number.h"
#include "option_motion.h"

void profile_make(const struct block *block, float exit_squared, struct profile *p)
{
    float entry_squared = block->entry_squared;
    float peak_squared = smaller(block->speed * block->speed, (entry_squared + exit_squared) / 2 + block->accel * block->length);
    peak_squared = larger(peak_squared, larger(entry_squared, exit_squared));
    p->entry = __builtin_sqrtf(entry_squared);
    p->exit = __builtin_sqrtf(exit_squared);
    p->peak = __builtin_sqrtf(peak_squared);
    p->gained_s = (p->peak - p->entry) / block->accel;
    p->lost_s = (p->peak - p->exit) / block->accel;
    p->gained_mm = (p->peak + p->entry) / 2 * p->gained_s;
    float lost_mm = (p->peak + p->exit) / 2 * p->lost_s;
    p->held_mm = larger(0, block->length - p->gained_mm - lost_mm);
    p->held_s = p->held_mm / p->peak;
}

float profile_duration(const struct profile *p) { return p->gained_s + p->held_s + p->lost_s; }

/* Speed and way along one slope: `t` of its `whole` seconds, from one speed to the other. */
static float slope_speed(float from, float to, float t, float whole)
{
    float share = whole > 0 ? t / whole : 1;
#if ACCEL_SMOOTH
    share = share * share * (3 - 2 * share);
#endif
    return from + share * (to - from);
}

static float slope_way(float from, float to, float t, float whole)
{
    float share = whole > 0 ? t / whole : 1;
#if ACCEL_SMOOTH
    float gone = share * share * share * (1 - share / 2);
#else
    float gone = share * share / 2;
#endif
    return whole * (from * share + (to - from) * gone);
}

float profile_speed(const struct profile *p, float t)
{
    if (t < p->gained_s) return slope_speed(p->entry, p->peak, t, p->gained_s);
    t -= p->gained_s + p->held_s;
    return t < 0 ? p->peak : slope_speed(p->peak, p->exit, smaller(t, p->lost_s), p->lost_s);
}

float profile_way(const struct profile *p, float t)
{
    if (t < p->gained_s) return slope_way(p->entry, p->peak, t, p->gained_s);
    t -= p->gained_s;
    if (t < p->held_s) return p->gained_mm + p->peak * t;
    t -= p->held_s;
    return p->gained_mm + p->held_mm + slope_way(p->peak, p->exit, smaller(t, p->lost_s), p->lost_s);
}
