/* tram.c: the four corners. With a probe the height of each against the first is told; without, the nozzle stands at 0 there
 * and you feel a shim. */
#include "bed/tram.h"
#include "bed/shape.h"
#include "core/number.h"
#include "motion/homing.h"
#include "motion/limits.h"
#include "motion/motion.h"
#include "option_plate.h"
#include "option_sense.h"
#include "probe/touch.h"
#include "proto/print.h"

#if TRAM_ON
enum { CORNERS = 4 };
#define INSET_MM 30.0f
#define LIFT_MM 5.0f
#define TRAVEL_MM_S 60.0f
static const struct spot CORNER[CORNERS] = {
    {BED_X_MIN + INSET_MM, BED_Y_MIN + INSET_MM},
    {BED_X_MAX - INSET_MM, BED_Y_MIN + INSET_MM},
    {BED_X_MAX - INSET_MM, BED_Y_MAX - INSET_MM},
    {BED_X_MIN + INSET_MM, BED_Y_MAX - INSET_MM},
};
static uint8_t corner = CORNERS - 1;

static enum outcome choose(const struct words *w)
{
    int asked = has(w, 'N') ? nearest(word(w, 'N', 0)) : (corner + 1) % CORNERS + 1;
    if (asked < 1 || asked > CORNERS) return fail(MSG_CORNER_RANGE);
    if (!homed(X) || !homed(Y) || !homed(Z)) return fail(MSG_HOME_FIRST);
    corner = (uint8_t)(asked - 1);
    return DONE;
}

#if PROBE_KIND != PROBE_KIND_NONE
static float first;
static bool first_known;

static bool touched(void)
{
    switch (touch_go_on()) {
    case TOUCHING: return false;
    case NOT_TOUCHED: return failed(MSG_PROBE_MET_AT_ONCE);
    case TOUCHED: break;
    }
    touch_end();
    if (corner == 0) {
        first = touch_height();
        first_known = true;
    }
    print("tram");
    print_name("corner");
    print_int(corner + 1);
    print_name("height");
    print_float(touch_height(), 3);
    print_name("above-first");
    if (first_known) print_float(touch_height() - first, 3);
    else print_char('-');
    print_end();
    return true;
}

/* The probe may not reach a corner: as near to it as it does. */
static struct spot reached(struct spot spot) { return touch_within(spot); }

static enum outcome tram(const struct words *w)
{
    if (choose(w) == FAILED) return FAILED;
    struct spot spot = reached(CORNER[corner]);
    const char *refused = touch_refuse(spot);
    if (refused) return fail(refused);
    touch_begin(spot);
    return going_on(touched);
}
#else
static bool arrived(void) { return !motion_busy(); }

static enum outcome tram(const struct words *w)
{
    if (choose(w) == FAILED) return FAILED;
    struct place to = motion_target();
    to.mm[Z] = larger(to.mm[Z], LIFT_MM);
    motion_move(&to, TRAVEL_MM_S);
    to.mm[X] = CORNER[corner].x;
    to.mm[Y] = CORNER[corner].y;
    motion_move(&to, TRAVEL_MM_S);
    to.mm[Z] = limit_end(Z, 0) > 0 ? limit_end(Z, 0) : 0;
    motion_move(&to, TRAVEL_MM_S);
    return going_on(arrived);
}
#endif

const struct command TRAM_COMMANDS[] = {
    VERB("tram", AT_REST, "N", tram),
    NO_COMMAND,
};
#endif
