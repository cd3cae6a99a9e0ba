/* motion.c: from mm to blocks, and the count of steps behind every place that is told. */
#include "motion/motion.h"
#include "bed/shape.h"
#include "core/number.h"
#include "core/settings.h"
#include "motion/kinematics.h"
#include "motion/motors.h"
#include "motion/planner.h"
#include "motion/stepper.h"
#include "option_motion.h"

#define MILLION 1e6f
/* Shorter ways are no move: less than what places far out are rounded to. */
#define NO_WAY_MM 1e-3f

/* The first blocks wait this long for others, so that speed can be carried from the first corner on. */
enum { GATHER_TICKS = 20, GATHERED = 6 };

static struct place end;              /* where the last queued move ends */
static int32_t end_steps[HOMED_AXES]; /* the same in steps */
static int32_t origin[MOTORS];        /* steps at a motor's count of zero; of E: its count where the last move ends */
static float filament_rest;           /* of a step, not made yet */
static uint8_t gathering, feeder = E;
static bool flowing, watching;

/* Steps of the filament's motor for a millimetre. */
float motion_feed_steps(int motor) { return setting[OF_EXTRUDER(motor, SET_STEPS_E, SET_STEPS_SECOND_E)]; }

/* Where the motors stand for a place: raised as the plate asks. */
static void goal_of(const float mm[HOMED_AXES], int32_t steps[HOMED_AXES])
{
    float at[HOMED_AXES] = {mm[X], mm[Y], mm[Z] + shape_lift(mm[X], mm[Y], mm[Z])};
    to_motors(at, steps);
}

static int32_t at_steps(int motor) { return (int32_t)((uint32_t)motor_made(motor) + (uint32_t)origin[motor]); }

void motion_start(void)
{
    motors_start();
    /* A stored nudge raises the place where they stand. */
    motion_settle();
}
bool motion_busy(void) { return planner_count() > 0 || !stepper_idle(); }
bool motion_feeds(void) { return flowing && planner_feeds(); }
struct place motion_target(void) { return end; }

struct place motion_position(void)
{
    int32_t steps[HOMED_AXES];
    struct place now;
    for (int i = 0; i < HOMED_AXES; i++) steps[i] = at_steps(i);
    to_axes(steps, now.mm);
    now.mm[Z] = shape_told(now.mm[X], now.mm[Y], now.mm[Z]);
    float left = (float)(int32_t)((uint32_t)origin[feeder] - (uint32_t)motor_made(feeder));
    now.filament = end.filament - (int64_t)nearest(left * MILLION / motion_feed_steps(feeder));
    return now;
}

/* Ends where the motors stand. */
void motion_settle(void)
{
    end = motion_position();
    for (int i = 0; i < HOMED_AXES; i++) end_steps[i] = at_steps(i);
    origin[feeder] = motor_made(feeder);
    flowing = false;
}

void motion_halt(void)
{
    stepper_clear();
    planner_clear();
    motion_settle();
}

void motion_release(void) { motors_enable(false); }

void motion_watch(int pin, int level)
{
    watching = pin >= 0;
    hw_watch(pin, level);
}

bool motion_watch_met(void) { return hw_watch_met(); }

void lantern_runs(void);

/* The board has room, or what it watched has ended its runs. */
EXPORT(lantern_runs) void lantern_runs(void)
{
    if (watching && hw_watch_met()) { motion_halt(); return; }
    if (flowing) stepper_feed();
}

void motion_tick(void)
{
    if (flowing && !motion_busy()) { flowing = false; gathering = 0; }
    if (flowing || planner_count() == 0) return;
    if (++gathering < GATHER_TICKS && planner_count() < GATHERED) return;
    gathering = 0;
    flowing = true;
    stepper_feed();
}

/* The share of a move's speed that an axis may take before its own limit is passed. */
static float limited(float wanted, float unit, float limit)
{
    float share = magnitude(unit);
    return share * wanted > limit ? limit / share : wanted;
}

bool motion_move(const struct place *to, float speed_mm_s)
{
    if (planner_full()) return false;
    struct block block = {.speed = speed_mm_s, .accel = 1e6f, .feeder = feeder};
    int32_t goal[HOMED_AXES];
    float unit[AXES], square = 0, asked = 0;
    goal_of(to->mm, goal);
    for (int i = 0; i < HOMED_AXES; i++) {
        block.steps[i] = goal[i] - end_steps[i];
        unit[i] = to->mm[i] - end.mm[i];
        asked += unit[i] * unit[i];
        /* Z goes as far as its motor does: map and nudge are in that. */
        if (i == Z) unit[Z] = (float)block.steps[Z] / setting[SET_STEPS_Z];
        square += unit[i] * unit[i];
    }
#if SECOND_Z_ON
    block.steps[Z2] = block.steps[Z];
#endif
    unit[E] = (float)(to->filament - end.filament) / MILLION;
    float steps = unit[E] * motion_feed_steps(feeder) + filament_rest;
    block.steps[feeder] = nearest(steps);
    filament_rest = steps - (float)block.steps[feeder];
    origin[feeder] = (int32_t)((uint32_t)origin[feeder] + (uint32_t)block.steps[feeder]);

    end = *to;
    for (int i = 0; i < HOMED_AXES; i++) end_steps[i] = goal[i];
    if (!(block.steps[X] | block.steps[Y] | block.steps[Z] | block.steps[feeder])) return true;
    block.length = larger(__builtin_sqrtf(square), NO_WAY_MM);
    /* The speed is the filament's where nothing else was asked to move, whatever a nudge makes of Z meanwhile. */
    if (smaller(asked, square) < NO_WAY_MM * NO_WAY_MM) block.length = larger(block.length, magnitude(unit[E]));
    for (int i = 0; i < AXES; i++) {
        unit[i] /= block.length;
        bool head = i < HOMED_AXES;
        int speed = head ? SET_SPEED_X + i : OF_EXTRUDER(feeder, SET_SPEED_E, SET_SPEED_SECOND_E);
        int accel = head ? SET_ACCEL_X + i : OF_EXTRUDER(feeder, SET_ACCEL_E, SET_ACCEL_SECOND_E);
        block.speed = limited(block.speed, unit[i], setting[speed]);
        block.accel = limited(block.accel, unit[i], setting[accel]);
    }
#if ACCEL_SMOOTH
    /* An S is half as steep again in its middle as on the whole. */
    block.accel /= 1.5f;
#endif
    if (!motors_enabled()) motors_enable(true);
    planner_add(&block, unit);
    if (flowing) stepper_feed();
    return true;
}

#if SECOND_Z_ON
void motion_second_z(float mm, float mm_s)
{
    struct block block = {.length = magnitude(mm), .speed = mm_s, .accel = setting[SET_ACCEL_Z]};
    float unit[AXES] = {0, 0, mm < 0 ? -1 : 1, 0};
    block.steps[Z2] = nearest(mm * setting[SET_STEPS_Z]);
    if (!block.steps[Z2] || planner_full()) return;
    if (!motors_enabled()) motors_enable(true);
    planner_add(&block, unit);
}
#endif

#if EXTRUDER_SECOND
void motion_feed_with(int motor)
{
    motion_settle();
    feeder = (uint8_t)motor;
    filament_rest = 0;
    motion_settle();
}
#endif

void motion_declare(int axis, float mm)
{
    int32_t steps[HOMED_AXES];
    float now[HOMED_AXES];
    for (int i = 0; i < HOMED_AXES; i++) steps[i] = at_steps(i);
    to_axes(steps, now);
    now[axis] = mm;
    to_motors(now, steps);
    for (int i = 0; i < HOMED_AXES; i++) origin[i] = (int32_t)((uint32_t)steps[i] - (uint32_t)motor_made(i));
    motion_settle();
    end.mm[axis] = axis == Z ? shape_told(now[X], now[Y], mm) : mm;
}

void motion_declare_filament(int64_t millionths) { end.filament = millionths; }
