/* homing.c: per axis: see the switch open, meet it fast, back off and see it open, meet it slowly, declare the place, leave
 * and see it open again. A switch that is met before anything moved, or stays met, is no switch to trust. */
#include "motion/homing.h"
#include "bed/shape.h"
#include "core/number.h"
#include "core/settings.h"
#include "core/stop.h"
#include "messages.h"
#include "motion/limits.h"
#include "motion/motion.h"
#include "motion/switches.h"
#include "option_homing.h"
#include "option_probe.h"
#include "option_sense.h"
#include "option_stall.h"
#include "probe/probe.h"
#include "proto/print.h"

#define BACK_OFF_MM 4.0f
#define LEAVE_MM 1.0f
#define SLOWER 5.0f
#define TRAVEL_SPEED_MM_S 80.0f
/* Contacts bounce: a switch is looked at so long after its axis came to rest. */
enum { SETTLE_TICKS = 5, FLICKERS = 3 };
enum stage { REST, LOOK, FREE, APPROACH, BACK_OFF, AGAIN, LEAVE };

static const bool TOWARDS_MAX[HOMED_AXES] = {
    HOME_X_SIDE == HOME_X_SIDE_MAX, HOME_Y_SIDE == HOME_Y_SIDE_MAX, HOME_Z_SIDE == HOME_Z_SIDE_MAX};
static const float SPEED[HOMED_AXES] = {HOME_SPEED_X, HOME_SPEED_Y, HOME_SPEED_Z};
static const char *const ABOUT[HOMED_AXES] = {"X ", "Y ", "Z "};
enum { Z_BY_PROBE = HOME_Z_WITH == HOME_Z_WITH_PROBE };
#if HOME_Z_WITH == HOME_Z_WITH_PROBE
_Static_assert(PROBE_KIND != PROBE_KIND_NONE, "[home.z.with] Z cannot be found with a probe that does not exist");
#endif

static enum stage stage;
/* `trusted`: the axis knew where it stood before it was homed. */
static bool trusted;
static uint8_t wanted, known, flickers;
static int axis;
static uint16_t wait;

bool homed(int which) { return known >> which & 1; }
bool homing_under_way(void) { return stage != REST; }
void homing_believe(int which) { known |= (uint8_t)(1u << which); }
void homing_forget(void) { known = 0; }
void homing_forget_axis(int which) { known &= (uint8_t)~(1u << which); }
bool homed_by_probe(void) { return Z_BY_PROBE && homed(Z); }

#if STALL_X || STALL_Y
static bool by_stall(int which) { return (which == X && STALL_X) || (which == Y && STALL_Y); }
#else
static bool by_stall(int which) { (void)which; return false; }
#endif
static bool by_probe(int which) { return which == Z && Z_BY_PROBE; }
static const struct input *sensor(void) { return by_probe(axis) ? probe_input() : switch_of(axis); }
static bool met(void) { return input_met(sensor()); }
static float towards(float way) { return TOWARDS_MAX[axis] ? way : -way; }

void homing_abandon(void)
{
    motion_watch(-1, 0);
    stage = REST;
    wanted = 0;
    if (probe_deployed()) probe_deploy(false);
}

static void give_up(const char *because) { stop_now(ABOUT[axis], because); }

static void travel(float way, float speed, enum stage next)
{
    struct place to = motion_target();
    to.mm[axis] += way;
    motion_move(&to, speed);
    wait = SETTLE_TICKS;
    stage = next;
}

/* Moves until the sensor reads met, or open. */
static void seek(float way, float speed, bool until_met, enum stage next)
{
    motion_watch(sensor()->pin, until_met == sensor()->met_high);
    travel(way, speed, next);
}

static float spot(int which) { return (which == X ? HOME_SPOT_X : HOME_SPOT_Y) - setting[SET_PROBE_OFFSET_X + which]; }

/* Z by probe begins above its spot, the nozzle standing aside by the probe's offset. */
static void above_spot(void)
{
    struct place to = motion_target();
    to.mm[Z] += PROBE_CLEAR;
    if (homed(Z)) to.mm[Z] = smaller(to.mm[Z], limit_end(Z, 1));
    motion_move(&to, SPEED[Z]);
    to.mm[X] = spot(X);
    to.mm[Y] = spot(Y);
    motion_move(&to, TRAVEL_SPEED_MM_S);
    probe_deploy(true);
}

static void next_axis(void)
{
    for (axis = X; axis < HOMED_AXES && !(wanted >> axis & 1); axis++) {}
    if (axis == HOMED_AXES) { stage = REST; return; }
    if (by_probe(axis)) above_spot();
    trusted = homed(axis);
    homing_forget_axis(axis);
    flickers = 0;
    wait = by_probe(axis) ? (uint16_t)(probe_ticks() + SETTLE_TICKS) : SETTLE_TICKS;
    stage = LOOK;
}

const char *homing_begin(uint8_t axes)
{
    for (int i = 0; i < HOMED_AXES; i++)
        if (axes >> i & 1 && !by_probe(i) && switch_of(i)->pin < 0) return MSG_NO_SWITCH;
    if (axes >> Z & 1 && Z_BY_PROBE) {
        if (((axes | known) & 3) != 3) return MSG_XY_FIRST;
        if (!limit_holds(X, spot(X)) || !limit_holds(Y, spot(Y))) return MSG_SPOT_OUTSIDE;
    }
    wanted = axes;
    next_axis();
    return NULL;
}

/* How far from where it believed to be an axis was met: steps that were lost, or what its sensor scatters. */
static void tell_miss(float place)
{
    struct place believed = motion_position();
    float lift = axis == Z ? shape_lift(believed.mm[X], believed.mm[Y], believed.mm[Z]) : 0;
    print("home");
    print_name("axis");
    print_char("xyz"[axis]);
    print_name("off");
    print_float(believed.mm[axis] + lift - place, 4);
    print_end();
}

static void declare(void)
{
    float place = by_probe(axis) ? -setting[SET_PROBE_OFFSET_Z] : limit_end(axis, TOWARDS_MAX[axis]);
    if (trusted) tell_miss(place);
    motion_declare(axis, place);
    travel(by_probe(axis) ? PROBE_CLEAR : -towards(LEAVE_MM), SPEED[axis], LEAVE);
}

static void approach(void)
{
    seek(towards((limit_end(axis, 1) - limit_end(axis, 0)) * 1.1f + 10), SPEED[axis], true, APPROACH);
}

/* The axis has come to rest after APPROACH or AGAIN. */
static void touched(bool found)
{
    if (!found) { give_up(by_probe(axis) ? MSG_MET_NO_PLATE : by_stall(axis) ? MSG_STALL_NEVER : MSG_MET_NO_SWITCH); return; }
    /* A motor that stands says so only while it is driven: there is one touch, and it counts. */
    if (by_stall(axis)) { declare(); return; }
    if (!met()) {
        if (++flickers == FLICKERS) give_up(MSG_FLICKERS);
        else seek(towards(BACK_OFF_MM * 2), SPEED[axis] / SLOWER, true, stage);
        return;
    }
    if (stage == AGAIN) declare();
    else travel(-towards(BACK_OFF_MM), SPEED[axis], BACK_OFF);
}

static void finish_axis(void)
{
    if (!by_stall(axis) && met()) { give_up(MSG_STAYS_MET); return; }
    if (by_probe(axis)) probe_deploy(false);
    known |= (uint8_t)(1u << axis);
    wanted &= (uint8_t)~(1u << axis);
    next_axis();
}

static void advance(bool found)
{
    switch (stage) {
    case LOOK:
        if (!met()) approach();
        else if (by_probe(axis)) give_up(MSG_PROBE_MET_AT_ONCE);
        else seek(-towards(UNHOMED_REACH_MM), SPEED[axis], false, FREE);
        break;
    case FREE:
        if (met()) give_up(MSG_SWITCH_HELD);
        else approach();
        break;
    case APPROACH:
    case AGAIN: touched(found); break;
    case BACK_OFF:
        if (met()) give_up(MSG_MET_BACKED_OFF);
        else seek(towards(BACK_OFF_MM * 2), SPEED[axis] / SLOWER, true, AGAIN);
        break;
    case LEAVE: finish_axis(); break;
    case REST: break;
    }
}

bool homing_done(void)
{
    if (stage == REST) return true;
    if (motion_busy()) return false;
    if (wait) { wait--; return false; }
    bool found = motion_watch_met();
    motion_watch(-1, 0);
    advance(found);
    return stage == REST;
}
