/* profile.c: a trapezoid of speed. The peak of one that is never held: v² = (u² + w²) / 2 + a s. */
#include "motion/profile.h"
#include "core/number.h"

void profile_make(const struct block *block, float exit_squared, struct profile *p)
{
    float entry_squared = block->entry_squared;
    float peak_squared = smaller(block->speed * block->speed, (entry_squared + exit_squared) / 2 + block->accel * block->length);
    peak_squared = larger(peak_squared, larger(entry_squared, exit_squared));
    p->accel = block->accel;
    p->entry = __builtin_sqrtf(entry_squared);
    p->exit = __builtin_sqrtf(exit_squared);
    p->peak = __builtin_sqrtf(peak_squared);
    p->gained_s = (p->peak - p->entry) / p->accel;
    p->lost_s = (p->peak - p->exit) / p->accel;
    p->gained_mm = (p->peak + p->entry) / 2 * p->gained_s;
    float lost_mm = (p->peak + p->exit) / 2 * p->lost_s;
    p->held_mm = larger(0, block->length - p->gained_mm - lost_mm);
    p->held_s = p->held_mm / p->peak;
}

float profile_duration(const struct profile *p) { return p->gained_s + p->held_s + p->lost_s; }

float profile_speed(const struct profile *p, float t)
{
    if (t < p->gained_s) return p->entry + p->accel * t;
    t -= p->gained_s + p->held_s;
    return t < 0 ? p->peak : larger(p->exit, p->peak - p->accel * t);
}

float profile_way(const struct profile *p, float t)
{
    if (t < p->gained_s) return (p->entry + p->accel / 2 * t) * t;
    t -= p->gained_s;
    if (t < p->held_s) return p->gained_mm + p->peak * t;
    t -= p->held_s;
    return p->gained_mm + p->held_mm + (p->peak - p->accel / 2 * t) * t;
}
