/* homing.c: per axis: lift or turn towards the switch, meet it fast, back off, meet it slowly, declare the place. */
#include "homing.h"
#include "limits.h"
#include "motion.h"
#include "option_homing.h"
#include "option_probe.h"
#include "print.h"
#include "probe.h"
#include "settings.h"
#include "stop.h"
#include "switches.h"

#define BACK_OFF_MM 4.0f
#define SLOWER 5.0f
#define TRAVEL_SPEED_MM_S 80.0f
enum { DEPLOY_TICKS = 300 };
enum stage { REST, LIFT, APPROACH, BACK_OFF, AGAIN, LEAVE };

static const bool TOWARDS_MAX[HOMED_AXES] = {
    HOME_X_SIDE == HOME_X_SIDE_MAX, HOME_Y_SIDE == HOME_Y_SIDE_MAX, HOME_Z_SIDE == HOME_Z_SIDE_MAX};
static const float SPEED[HOMED_AXES] = {HOME_SPEED_X, HOME_SPEED_Y, HOME_SPEED_Z};
enum { Z_BY_PROBE = HOME_Z_WITH == HOME_Z_WITH_PROBE };
#if HOME_Z_WITH == HOME_Z_WITH_PROBE
_Static_assert(PROBE_KIND != PROBE_KIND_NONE, "[home.z.with] Z cannot be found with a probe that does not exist");
#endif

static enum stage stage;
static uint8_t wanted, known;
static int axis;
static uint16_t wait;
static bool met;

bool homed(int which) { return known >> which & 1; }
bool homing_under_way(void) { return stage != REST; }
void homing_forget(void) { known = 0; }

void homing_abandon(void)
{
    motion_watch(NULL);
    stage = REST;
    wanted = 0;
    if (probe_deployed()) probe_deploy(false);
}

static bool touching(void)
{
    met = axis == Z && Z_BY_PROBE ? probe_triggered() : switch_pressed(axis);
    return met;
}

static void travel(float way, float speed)
{
    float target[AXES];
    motion_target(target);
    target[axis] += way;
    motion_move(target, speed);
}

static float towards(float way) { return TOWARDS_MAX[axis] ? way : -way; }

static void approach(float way, float speed, enum stage next)
{
    met = false;
    motion_watch(touching);
    travel(towards(way), speed);
    stage = next;
}

/* Z by probe begins over the home spot, the nozzle standing aside by the probe's offset. */
static void over_spot(void)
{
    float target[AXES];
    motion_target(target);
    target[X] = HOME_SPOT_X - settings.probe_offset[X];
    target[Y] = HOME_SPOT_Y - settings.probe_offset[Y];
    motion_move(target, TRAVEL_SPEED_MM_S);
}

static void next_axis(void)
{
    for (axis = X; axis < HOMED_AXES && !(wanted >> axis & 1); axis++) {}
    if (axis == HOMED_AXES) { stage = REST; return; }
    known &= (uint8_t)~(1u << axis);
    stage = LIFT;
    wait = 0;
    if (axis == Z && Z_BY_PROBE) {
        travel(PROBE_CLEAR, SPEED[Z]);
        over_spot();
        probe_deploy(true);
        wait = DEPLOY_TICKS;
    }
}

bool homing_begin(uint8_t axes)
{
    for (int i = 0; i < HOMED_AXES; i++) {
        if (!(axes >> i & 1) || (i == Z && Z_BY_PROBE) || switch_there(i)) continue;
        print("error: no switch for ");
        print_char(AXIS_LETTER[i]);
        print_end();
        return false;
    }
    if (axes >> Z & 1 && Z_BY_PROBE && ((axes | known) & 3) != 3) {
        print("error: home X and Y before Z, the probe must be over its spot");
        print_end();
        return false;
    }
    wanted = axes;
    next_axis();
    return true;
}

static void declare(void)
{
    motion_declare(axis, axis == Z && Z_BY_PROBE ? -settings.probe_offset[Z] : limit_end(axis, TOWARDS_MAX[axis]));
    known |= (uint8_t)(1u << axis);
    wanted &= (uint8_t)~(1u << axis);
    if (axis == Z && Z_BY_PROBE) {
        probe_deploy(false);
        travel(PROBE_CLEAR, SPEED[Z]);
    }
    stage = LEAVE;
}

bool homing_done(void)
{
    if (stage == REST) return true;
    if (motion_busy()) return false;
    if (wait) { wait--; return false; }
    motion_watch(NULL);
    switch (stage) {
    case LIFT: {
        float length = limit_end(axis, 1) - limit_end(axis, 0);
        approach(length * 1.1f + 10, SPEED[axis], APPROACH);
        break;
    }
    case APPROACH:
    case AGAIN:
        if (!met) { stop_now(axis == Z && Z_BY_PROBE ? "homing did not meet the plate" : "homing did not meet its switch"); break; }
        if (stage == AGAIN) { declare(); break; }
        travel(-towards(BACK_OFF_MM), SPEED[axis]);
        stage = BACK_OFF;
        break;
    case BACK_OFF:
        approach(BACK_OFF_MM * 2, SPEED[axis] / SLOWER, AGAIN);
        break;
    case LEAVE:
        next_axis();
        break;
    case REST:
        break;
    }
    return stage == REST;
}
