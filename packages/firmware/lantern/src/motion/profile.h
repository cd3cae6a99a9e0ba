/* profile.h: speed and way over the time of one block: gained, held, lost. */
#pragma once
#include "motion/block.h"
struct profile {
    float entry, peak, exit;      /* mm/s */
    float gained_s, held_s, lost_s;
    float gained_mm, held_mm;
};
/* Between two speeds, given as squares; the peak is what the length and the block's own speed allow. */
void profile_make(const struct block *block, float exit_squared, struct profile *profile);
float profile_duration(const struct profile *profile);
/* mm gone and mm/s after so many seconds. */
float profile_way(const struct profile *profile, float t);
float profile_speed(const struct profile *profile, float t);
