/* origins.c: six zero points, in RAM. */
#include "motion/origins.h"
#include "core/number.h"
#include "motion/motion.h"

#if OFFSETS_ON
static struct origins all;

struct origins origins_now(void) { return all; }
void origins_put(const struct origins *what) { all = *what; }
float origin_of(int axis) { return all.mm[all.chosen][axis]; }

static enum outcome choose(int which) { all.chosen = (uint8_t)which; return DONE; }
static enum outcome first(const struct words *w) { (void)w; return choose(0); }
static enum outcome second(const struct words *w) { (void)w; return choose(1); }
static enum outcome third(const struct words *w) { (void)w; return choose(2); }
static enum outcome fourth(const struct words *w) { (void)w; return choose(3); }
static enum outcome fifth(const struct words *w) { (void)w; return choose(4); }
static enum outcome sixth(const struct words *w) { (void)w; return choose(5); }

/* Where an origin lies on the machine; without any axis, here. */
static enum outcome set(const struct words *w)
{
    int which = nearest(word(w, 'N', (float)all.chosen + 1)) - 1;
    if (which < 0 || which >= ORIGINS) return fail(MSG_ORIGIN_RANGE);
    struct place here = motion_target();
    bool any = has(w, 'X') || has(w, 'Y') || has(w, 'Z');
    for (int i = 0; i < HOMED_AXES; i++)
        if (!any || has(w, AXIS_LETTER[i])) all.mm[which][i] = any ? word(w, AXIS_LETTER[i], 0) : here.mm[i];
    return DONE;
}

const struct command ORIGIN_COMMANDS[] = {
    CODE('G', 54, IN_PRINT, NULL, NULL, first),
    CODE('G', 55, IN_PRINT, NULL, NULL, second),
    CODE('G', 56, IN_PRINT, NULL, NULL, third),
    CODE('G', 57, IN_PRINT, NULL, NULL, fourth),
    CODE('G', 58, IN_PRINT, NULL, NULL, fifth),
    CODE('G', 59, IN_PRINT, NULL, NULL, sixth),
    VERB("origin", AT_REST, "NXYZ", set),
    NO_COMMAND,
};
#endif
