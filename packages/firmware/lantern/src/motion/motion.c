/* motion.c: from mm to blocks, and the count of steps behind every place that is told. */
#include "motion/motion.h"
#include "core/number.h"
#include "core/settings.h"
#include "motion/kinematics.h"
#include "motion/motors.h"
#include "motion/planner.h"
#include "motion/stepper.h"

#define MILLION 1e6f
/* Shorter ways are no move. */
#define NO_WAY_MM 1e-5f

/* The first blocks wait this long for others, so that speed can be carried from the first corner on. */
enum { GATHER_TICKS = 20, GATHERED = 6 };

static struct place end;              /* where the last queued move ends */
static int32_t end_steps[HOMED_AXES]; /* the same in steps */
static int32_t origin[MOTORS];        /* steps at a motor's count of zero; of E: its count where the last move ends */
static float filament_rest;           /* of a step, not made yet */
static uint8_t gathering;
static bool flowing, watching;

static int32_t at_steps(int motor) { return (int32_t)((uint32_t)motor_made(motor) + (uint32_t)origin[motor]); }

void motion_start(void) { motors_start(); }
bool motion_busy(void) { return planner_count() > 0 || !stepper_idle(); }
struct place motion_target(void) { return end; }

struct place motion_position(void)
{
    int32_t steps[HOMED_AXES];
    struct place now;
    for (int i = 0; i < HOMED_AXES; i++) steps[i] = at_steps(i);
    to_axes(steps, now.mm);
    float left = (float)(int32_t)((uint32_t)origin[E] - (uint32_t)motor_made(E));
    now.filament = end.filament - (int64_t)nearest(left * MILLION / setting[SET_STEPS_E]);
    return now;
}

/* Ends where the motors stand. */
void motion_settle(void)
{
    end = motion_position();
    for (int i = 0; i < HOMED_AXES; i++) end_steps[i] = at_steps(i);
    origin[E] = motor_made(E);
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
    struct block block = {.speed = speed_mm_s, .accel = 1e6f};
    int32_t goal[HOMED_AXES];
    float unit[AXES], square = 0;
    to_motors(to->mm, goal);
    for (int i = 0; i < HOMED_AXES; i++) {
        block.steps[i] = goal[i] - end_steps[i];
        unit[i] = to->mm[i] - end.mm[i];
        square += unit[i] * unit[i];
    }
    unit[E] = (float)(to->filament - end.filament) / MILLION;
    float steps = unit[E] * setting[SET_STEPS_E] + filament_rest;
    block.steps[E] = nearest(steps);
    filament_rest = steps - (float)block.steps[E];
    origin[E] = (int32_t)((uint32_t)origin[E] + (uint32_t)block.steps[E]);

    end = *to;
    for (int i = 0; i < HOMED_AXES; i++) end_steps[i] = goal[i];
    if (!(block.steps[X] | block.steps[Y] | block.steps[Z] | block.steps[E])) return true;
    block.length = __builtin_sqrtf(square);
    if (block.length < NO_WAY_MM) block.length = larger(magnitude(unit[E]), NO_WAY_MM);
    for (int i = 0; i < AXES; i++) {
        unit[i] /= block.length;
        block.speed = limited(block.speed, unit[i], setting[SET_SPEED_X + i]);
        block.accel = limited(block.accel, unit[i], setting[SET_ACCEL_X + i]);
    }
    if (!motors_enabled()) motors_enable(true);
    planner_add(&block, unit);
    if (flowing) stepper_feed();
    return true;
}

void motion_declare(int axis, float mm)
{
    struct place now = motion_position();
    int32_t steps[HOMED_AXES];
    now.mm[axis] = mm;
    to_motors(now.mm, steps);
    for (int i = 0; i < HOMED_AXES; i++) origin[i] = (int32_t)((uint32_t)steps[i] - (uint32_t)motor_made(i));
    motion_settle();
    end.mm[axis] = mm;
}

void motion_declare_filament(int64_t millionths) { end.filament = millionths; }
