/* stepper.c: one segment after another. A motor's steps lie evenly along the block: it makes one each time its exact place
 * passes the middle between two. Roots are taken once a block, divisions once a segment; nothing is done for a single step. */
#include "motion/stepper.h"
#include "core/number.h"
#include "motion/motion.h"
#include "motion/motors.h"
#include "motion/planner.h"
#include "motion/profile.h"
#include "option_extrude.h"
#include "core/settings.h"

#define SEGMENT_S 0.002f
#define NS_PER_S 1e9f

static const struct block *block;
static struct profile profile;
static uint32_t segment, segments;
static float segment_s;
static int32_t handed[MOTORS]; /* steps of the block handed over already */

static void begin(void)
{
    float exit_squared;
    block = planner_begin(&exit_squared);
    if (!block) return;
    profile_make(block, exit_squared, &profile);
    float duration = profile_duration(&profile);
    segments = whole(duration / SEGMENT_S + 0.5f);
    if (segments == 0) segments = 1;
    segment_s = duration / (float)segments;
    segment = 0;
    for (int i = 0; i < MOTORS; i++) handed[i] = 0;
}

/* From the mean interval and how the speed changes over the segment; the last step must not come after its end. */
static struct run make_run(int motor, uint32_t count, bool plus, float first, float way, float lean, float ns)
{
    float interval = ns / way, start = first * interval, change = 0;
    if (count > 1) {
        change = -2 * lean * interval / way;
        interval *= 1 + lean;
        float steps = (float)(count - 1);
        float last = start + steps * interval + change * steps * (steps - 1) / 2;
        if (last > ns - 1) start = larger(0, start - (last - ns + 1));
        if (start == 0 && last > ns - 1) { interval = (ns - 1) / (float)count; change = 0; }
    } else if (start > ns - 1) start = ns - 1;
    return (struct run){whole(start), whole(interval), nearest(change), (uint16_t)count, (uint8_t)motor, motor_level(motor, plus)};
}

#if LEAD_ON
/* Extra steps of filament that are pushed ahead, and how many the speed asks for: the melt gives way to pressure late. Only
 * while the head moves and filament is fed. */
static int32_t led;

static int32_t lead_at(float speed)
{
    bool prints = block->steps[block->feeder] > 0 && (block->steps[X] | block->steps[Y]);
    float time = setting[OF_EXTRUDER(block->feeder, SET_LEAD_TIME, SET_LEAD_TIME_SECOND_E)];
    return prints ? nearest(time * speed * (float)block->steps[block->feeder] / block->length) : 0;
}

/* What of it may be made up within a segment: no faster than the extruder goes. */
static int32_t lead_change(float speed)
{
    float fastest = setting[OF_EXTRUDER(block->feeder, SET_SPEED_E, SET_SPEED_SECOND_E)];
    float most = fastest * motion_feed_steps(block->feeder) * segment_s;
    float wanted = (float)(lead_at(speed) - led);
    return nearest(larger(-most, smaller(most, wanted)));
}

/* The extruder's steps of a segment lie evenly in it: they are few, and may turn round. */
static uint32_t add_lead(struct run *runs, uint32_t made, int32_t own, float speed, float ns)
{
    int32_t extra = lead_change(speed), count = own + extra;
    led += extra;
    if (count == 0) return made;
    uint32_t steps = (uint32_t)(count < 0 ? -count : count);
    runs[made] = make_run(block->feeder, steps, count > 0, 0.5f, (float)steps, 0, ns);
    return made + 1;
}
#endif

static void hand_over(void)
{
    struct run runs[MOTORS];
    uint32_t made = 0;
    bool last = segment + 1 == segments;
    float from_s = (float)segment * segment_s, to_s = from_s + segment_s;
    float from = profile_way(&profile, from_s) / block->length;
    float to = last ? 1 : profile_way(&profile, to_s) / block->length;
    float slow = profile_speed(&profile, from_s), fast = profile_speed(&profile, to_s);
    float lean = slow + fast > 0 ? (fast - slow) / (fast + slow) : 0;
    float ns = segment_s * NS_PER_S;
    for (int i = 0; i < MOTORS; i++) {
        bool plus = block->steps[i] > 0;
        float steps = magnitude((float)block->steps[i]);
        int32_t target = last ? (plus ? block->steps[i] : -block->steps[i]) : nearest(steps * to);
        int32_t count = target - handed[i];
#if LEAD_ON
        if (i == block->feeder && (led || (plus && (block->steps[X] | block->steps[Y])))) {
            made = add_lead(runs, made, plus ? count : -count, fast, ns);
            handed[i] = target;
            continue;
        }
#endif
        if (count <= 0) continue;
        float way = steps * (to - from), first = (float)handed[i] + 0.5f - steps * from;
        runs[made++] = make_run(i, (uint32_t)count, plus, larger(0, first), larger(way, 0.5f), lean, ns);
        handed[i] = target;
    }
    hw_runs(runs, made, whole(ns));
    if (++segment < segments) return;
    block = NULL;
    planner_end();
}

void stepper_feed(void)
{
    while (hw_runs_room()) {
        if (!block) begin();
        if (!block) return;
        hand_over();
    }
}

bool stepper_idle(void) { return !block && hw_runs_over(); }

void stepper_clear(void)
{
    block = NULL;
    hw_runs_halt();
#if LEAD_ON
    led = 0;
#endif
}
