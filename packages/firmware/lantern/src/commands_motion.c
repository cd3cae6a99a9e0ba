#include "commands.h"
#include "homing.h"
#include "limits.h"
#include "motion.h"
#include "probe.h"

static bool relative;
static float feed_mm_s = 20;
static float pending[AXES];
static uint16_t ticks_left;

static bool pending_queued(void) { return motion_move(pending, feed_mm_s); }
static bool motion_finished(void) { return !motion_busy(); }
static bool dwell_over(void) { return !motion_busy() && (ticks_left == 0 || --ticks_left == 0); }

static enum outcome move(const struct words *w)
{
    float from[AXES];
    motion_target(from);
    for (int i = 0; i < AXES; i++) {
        float base = relative ? from[i] : 0;
        pending[i] = has(w, AXIS_LETTER[i]) ? base + word(w, AXIS_LETTER[i], 0) : from[i];
    }
    const char *refused = limits_refuse(from, pending);
    if (refused) return fail(refused);
    if (has(w, 'F')) {
        if (word(w, 'F', 0) <= 0) return fail("F must be above 0 mm/min");
        feed_mm_s = word(w, 'F', 0) / 60;
    }
    if (pending_queued()) return DONE;
    going_on(pending_queued);
    return GOING_ON;
}

static enum outcome dwell(const struct words *w)
{
    float ms = word(w, 'P', 0) + 1000 * word(w, 'S', 0);
    if (ms < 0 || ms > 60000) return fail("dwell must be 0 to 60 s");
    ticks_left = (uint16_t)ms;
    going_on(dwell_over);
    return GOING_ON;
}

static enum outcome home(const struct words *w)
{
    uint8_t axes = 0;
    for (int i = 0; i < HOMED_AXES; i++)
        if (has(w, AXIS_LETTER[i])) axes |= (uint8_t)(1u << i);
    if (motion_busy()) return fail("moving");
    if (!homing_begin(axes ? axes : 7)) return FAILED;
    going_on(homing_done);
    return GOING_ON;
}

static enum outcome absolute_on(const struct words *w) { (void)w; relative = false; return DONE; }
static enum outcome relative_on(const struct words *w) { (void)w; relative = true; return DONE; }

static enum outcome declare_extruder(const struct words *w)
{
    if (motion_busy()) return fail("moving");
    if (has(w, 'X') || has(w, 'Y') || has(w, 'Z')) return fail("only E can be declared, home the axes");
    motion_declare(E, word(w, 'E', 0));
    return DONE;
}

static enum outcome wait_for_moves(const struct words *w) { (void)w; going_on(motion_finished); return GOING_ON; }

static enum outcome motors_off(const struct words *w)
{
    (void)w;
    if (motion_busy()) return fail("moving");
    motion_release();
    homing_forget();
    return DONE;
}

static enum outcome deploy(const struct words *w) { (void)w; if (!probe_there()) return fail("this image has no probe"); probe_deploy(true); return DONE; }
static enum outcome stow(const struct words *w) { (void)w; if (!probe_there()) return fail("this image has no probe"); probe_deploy(false); return DONE; }

const struct command MOTION_COMMANDS[] = {
    {NULL, 'G', 0, false, move},
    {NULL, 'G', 1, false, move},
    {NULL, 'G', 4, false, dwell},
    {NULL, 'G', 28, false, home},
    {NULL, 'G', 90, false, absolute_on},
    {NULL, 'G', 91, false, relative_on},
    {NULL, 'G', 92, false, declare_extruder},
    {NULL, 'M', 84, true, motors_off},
    {NULL, 'M', 400, false, wait_for_moves},
    {NULL, 'M', 401, false, deploy},
    {NULL, 'M', 402, true, stow},
    {NULL, 0, 0, false, NULL},
};
