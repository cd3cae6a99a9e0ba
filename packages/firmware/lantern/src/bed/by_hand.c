/* by_hand.c: one point after another. */
#include "bed/by_hand.h"
#include "core/number.h"
#include "motion/homing.h"
#include "motion/limits.h"
#include "motion/motion.h"

#if HAS_BY_HAND
#define ABOVE_MM 1.0f
#define TRAVEL_MM_S 60.0f
#define LIFT_MM 4.0f
/* A plate is not further off: the nozzle was not lowered onto the shim. */
#define MOST_MM 5.0f
#define THICKEST_MM 1.0f

static const struct hand *taking;
static int point;
static float shim_mm;

bool by_hand_under_way(void) { return taking != NULL; }
void by_hand_stop(void) { taking = NULL; }
static bool arrived(void) { return !motion_busy(); }

static enum outcome go(void)
{
    struct spot spot = taking->spot(point);
    struct place to = motion_target();
    to.mm[Z] = smaller(to.mm[Z] + LIFT_MM, limit_end(Z, 1));
    motion_move(&to, TRAVEL_MM_S);
    to.mm[X] = spot.x;
    to.mm[Y] = spot.y;
    motion_move(&to, TRAVEL_MM_S);
    to.mm[Z] = ABOVE_MM;
    motion_move(&to, TRAVEL_MM_S);
    return going_on(arrived);
}

static const char *out_of_reach(const struct hand *what)
{
    if (!homed(X) || !homed(Y) || !homed(Z)) return MSG_HOME_FIRST;
    for (int i = 0; i < what->points; i++) {
        struct spot spot = what->spot(i);
        if (!limit_holds(X, spot.x) || !limit_holds(Y, spot.y)) return MSG_OUTSIDE;
    }
    return NULL;
}

static float shim(const struct words *w) { return word(w, 'S', 0); }

const char *by_hand_refuse(const struct hand *what, const struct words *w)
{
    return shim(w) >= 0 && shim(w) <= THICKEST_MM ? out_of_reach(what) : MSG_SHIM_RANGE;
}

enum outcome by_hand_begin(const struct hand *what, const struct words *w)
{
    taking = what;
    shim_mm = shim(w);
    point = 0;
    return go();
}

static enum outcome next(const struct words *w)
{
    (void)w;
    if (!taking) return fail(MSG_NOTHING_TAKEN);
    /* Its motors were let go meanwhile: nobody knows where the nozzle stands. */
    const char *refused = out_of_reach(taking);
    if (refused) { taking = NULL; return fail(refused); }
    struct place at = motion_target();
    if (magnitude(at.mm[Z]) > MOST_MM) return fail(MSG_NOT_AT_PLATE);
    /* Where the nozzle really stands: what is raised by map or nudge counts. */
    taking->put(point, at.mm[Z] + shape_lift(at.mm[X], at.mm[Y], at.mm[Z]) - shim_mm);
    if (++point < taking->points) return go();
    const struct hand *over = taking;
    taking = NULL;
    struct place to = motion_target();
    to.mm[Z] = LIFT_MM;
    motion_move(&to, TRAVEL_MM_S);
    over->over();
    return going_on(arrived);
}

const struct command BY_HAND_COMMANDS[] = {
#if MAP_SHIM
    VERB("map next", AT_REST, NULL, next),
#endif
#if TILT_BY == TILT_BY_BY_HAND
    VERB("tilt next", AT_REST, NULL, next),
#endif
    NO_COMMAND,
};
#endif
