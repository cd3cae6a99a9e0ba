/* motion.c: a queue of straight moves, each from rest to rest along a trapezoid of speed. The one-shot timer makes
 * the steps of the busiest motor; the others follow by carrying their share. */
#include "motion.h"
#include "kinematics.h"
#include "motors.h"
#include "settings.h"

enum { QUEUE = 8 };
#define NS_PER_S 1e9f

struct move {
    uint32_t steps[AXES];
    bool plus[AXES];
    uint32_t busiest;     /* steps of the busiest motor */
    float mm_per_step;    /* way of the head for one of its steps */
    float speed, accel;
};

static struct move queue[QUEUE];
static uint8_t oldest, queued;
static bool running;
static uint32_t made;                 /* steps of the busiest motor already made */
static uint32_t carry[AXES];
static int32_t at_steps[AXES];        /* where the motors are */
static int32_t end_steps[AXES];       /* where the last queued move ends */
static float end_mm[AXES];
static bool (*watching)(void);

void motion_start(void) { motors_start(); }
bool motion_busy(void) { return queued > 0; }
void motion_watch(bool (*watch)(void)) { watching = watch; }
void motion_release(void) { motors_enable(false); }
void motion_position(float at[AXES]) { to_axes(at_steps, at); }

void motion_target(float at[AXES])
{
    for (int i = 0; i < AXES; i++) at[i] = end_mm[i];
}

/* Speed at a way from rest is the root of 2 a s, up from the start and down to the end. */
static float step_interval_ns(const struct move *move)
{
    float from = ((float)made + 0.5f) * move->mm_per_step;
    float left = ((float)(move->busiest - made) - 0.5f) * move->mm_per_step;
    float reach = 2 * move->accel * (from < left ? from : left);
    float speed = reach >= move->speed * move->speed ? move->speed : __builtin_sqrtf(reach);
    return move->mm_per_step / speed * NS_PER_S;
}

static void begin(void)
{
    struct move *move = &queue[oldest];
    made = 0;
    running = true;
    motors_enable(true);
    for (int i = 0; i < AXES; i++) {
        carry[i] = move->busiest / 2;
        if (move->steps[i]) motor_direction(i, move->plus[i]);
    }
    hw_timer((uint32_t)step_interval_ns(move));
}

static void settle(void)
{
    running = false;
    for (int i = 0; i < AXES; i++) end_steps[i] = at_steps[i];
    to_axes(at_steps, end_mm);
}

void motion_halt(void)
{
    hw_timer(0);
    queued = 0;
    settle();
}

EXPORT(lantern_timer) void lantern_timer(void)
{
    if (!running || !queued) return;
    struct move *move = &queue[oldest];
    if (watching && watching()) { motion_halt(); return; }
    for (int i = 0; i < AXES; i++) {
        carry[i] += move->steps[i];
        if (carry[i] < move->busiest) continue;
        carry[i] -= move->busiest;
        motor_step(i);
        at_steps[i] += move->plus[i] ? 1 : -1;
    }
    if (++made < move->busiest) { hw_timer((uint32_t)step_interval_ns(move)); return; }
    oldest = (oldest + 1) % QUEUE;
    queued--;
    running = false;
    if (queued) begin();
}

/* The share of a move's speed that an axis may take before its own limit is passed. */
static float limited(float wanted, float way, float length, float limit)
{
    if (way < 0) way = -way;
    return way * wanted > limit * length ? limit * length / way : wanted;
}

bool motion_move(const float target[AXES], float speed_mm_s)
{
    if (queued == QUEUE) return false;
    struct move *move = &queue[(oldest + queued) % QUEUE];
    int32_t goal[AXES];
    float way[AXES], square = 0;
    to_motors(target, goal);
    move->busiest = 0;
    for (int i = 0; i < AXES; i++) {
        int32_t delta = goal[i] - end_steps[i];
        move->plus[i] = delta > 0;
        move->steps[i] = (uint32_t)(delta < 0 ? -delta : delta);
        if (move->steps[i] > move->busiest) move->busiest = move->steps[i];
        way[i] = target[i] - end_mm[i];
        if (i != E) square += way[i] * way[i];
    }
    for (int i = 0; i < AXES; i++) { end_mm[i] = target[i]; end_steps[i] = goal[i]; }
    if (!move->busiest) return true;
    float length = __builtin_sqrtf(square);
    if (length < 1e-4f) length = way[E] < 0 ? -way[E] : way[E];
    if (length < 1e-4f) length = 1e-4f;
    move->speed = speed_mm_s;
    move->accel = 1e6f;
    for (int i = 0; i < AXES; i++) {
        move->speed = limited(move->speed, way[i], length, settings.speed[i]);
        move->accel = limited(move->accel, way[i], length, settings.accel[i]);
    }
    move->mm_per_step = length / (float)move->busiest;
    queued++;
    if (!running) begin();
    return true;
}

void motion_declare(int axis, float at)
{
    float now[AXES];
    to_axes(at_steps, now);
    now[axis] = at;
    to_motors(now, at_steps);
    settle();
    end_mm[axis] = at;
}
