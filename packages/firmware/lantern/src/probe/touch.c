/* touch.c: above the spot, the probe out, down until it is met, up again. */
#include "probe/touch.h"
#include "core/number.h"
#include "core/settings.h"
#include "core/stop.h"
#include "messages.h"
#include "motion/homing.h"
#include "motion/limits.h"
#include "motion/motion.h"
#include "option_probe.h"
#include "probe/probe.h"

#if PROBE_KIND != PROBE_KIND_NONE
/* So far below the plane the plate is looked for. */
#define BELOW_MM 4.0f
#define LIFT_MM_S 15.0f
#define TRAVEL_MM_S 80.0f
/* A second touch begins from here: high enough for the probe to open again. */
#define AGAIN_MM 2.0f
enum { SETTLE_TICKS = 5 };
enum stage { REST, GO, OUT, LOOK, DOWN, UP };

static enum stage stage;
static struct spot spot;
static uint16_t wait;
static int wanted, made;
static float sum, last;
static bool cleared;

static float nozzle_x(void) { return spot.x - setting[SET_PROBE_OFFSET_X]; }
static float nozzle_y(void) { return spot.y - setting[SET_PROBE_OFFSET_Y]; }
/* Height of the nozzle at which the probe meets the nominal plane. */
static float meets_at(void) { return -setting[SET_PROBE_OFFSET_Z]; }

const char *touch_refuse(struct spot where)
{
    if (!homed(X) || !homed(Y) || !homed(Z)) return MSG_HOME_FIRST;
    bool held = limit_holds(X, where.x - setting[SET_PROBE_OFFSET_X]) && limit_holds(Y, where.y - setting[SET_PROBE_OFFSET_Y]);
    return held ? NULL : MSG_PROBE_REACH;
}

static float within(int axis, float at, float offset)
{
    return larger(limit_end(axis, 0) + offset, smaller(limit_end(axis, 1) + offset, at));
}

struct spot touch_within(struct spot where)
{
    return (struct spot){within(X, where.x, setting[SET_PROBE_OFFSET_X]), within(Y, where.y, setting[SET_PROBE_OFFSET_Y])};
}

static void rise(float above)
{
    struct place to = motion_target();
    to.mm[Z] = smaller(larger(to.mm[Z], meets_at() + above), limit_end(Z, 1));
    motion_move(&to, LIFT_MM_S);
}

void touch_begin_times(struct spot where, int times)
{
    spot = where;
    wanted = times;
    made = 0;
    sum = 0;
    cleared = false;
    rise(PROBE_CLEAR);
    struct place to = motion_target();
    to.mm[X] = nozzle_x();
    to.mm[Y] = nozzle_y();
    motion_move(&to, TRAVEL_MM_S);
    stage = GO;
}

void touch_begin(struct spot where) { touch_begin_times(where, PROBE_TOUCHES); }

static void put_out(void)
{
    wait = probe_deployed() ? SETTLE_TICKS : (uint16_t)(probe_ticks() + SETTLE_TICKS);
    probe_deploy(true);
    stage = OUT;
}

static void go_down(void)
{
    struct place to = motion_target();
    to.mm[Z] = meets_at() - BELOW_MM;
    motion_watch(probe_input()->pin, probe_input()->met_high);
    motion_move(&to, PROBE_FEED);
    stage = DOWN;
}

/* The probe reads met before anything moved. */
static enum touch met_at_once(void)
{
#if PROBE_ALARM
    if (cleared) {
        stage = REST;
        probe_deploy(false);
        stop_now("probe ", MSG_PROBE_STUCK);
        return TOUCHING;
    }
    /* Drawn in and let out once more: a pin that hung is free then. */
    cleared = true;
    probe_deploy(false);
    wait = (uint16_t)(probe_ticks() + SETTLE_TICKS);
    stage = GO;
    return TOUCHING;
#else
    stage = REST;
    probe_deploy(false);
    return NOT_TOUCHED;
#endif
}

static enum touch met(bool found)
{
    if (!found) {
        stage = REST;
        stop_now("probe ", MSG_NO_PLATE);
        return TOUCHING;
    }
    /* Where the nozzle really stands: what is raised by map or nudge counts. */
    struct place now = motion_position();
    last = now.mm[Z] + shape_lift(now.mm[X], now.mm[Y], now.mm[Z]) - meets_at();
    sum += last;
    made++;
    rise(made < wanted ? AGAIN_MM : PROBE_CLEAR);
    stage = UP;
    return TOUCHING;
}

enum touch touch_go_on(void)
{
    if (stage == REST) return TOUCHED;
    if (motion_busy()) return TOUCHING;
    if (wait) { wait--; return TOUCHING; }
    bool found = motion_watch_met();
    motion_watch(-1, 0);
    switch (stage) {
    case GO: put_out(); break;
    case OUT: stage = LOOK; break;
    case LOOK:
        if (input_met(probe_input())) return met_at_once();
        go_down();
        break;
    case DOWN: return met(found);
    case UP:
        if (made < wanted) { stage = LOOK; wait = SETTLE_TICKS; break; }
        stage = REST;
        return TOUCHED;
    case REST: break;
    }
    return TOUCHING;
}

float touch_height(void) { return sum / (float)made; }
float touch_last(void) { return last; }
void touch_end(void) { probe_deploy(false); }

void touch_stop(void)
{
    stage = REST;
    motion_watch(-1, 0);
}
#endif
