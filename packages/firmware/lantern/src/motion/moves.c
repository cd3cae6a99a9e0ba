/* moves.c: G0 to M400. A move is checked whole before any of it is queued. */
#include "motion/moves.h"
#include "core/settings.h"
#include "heat/heat.h"
#include "motion/homing.h"
#include "motion/limits.h"
#include "motion/motion.h"
#include "motion/switches.h"
#include "option_extrude.h"
#include "option_motion.h"
#include "probe/probe.h"
#include "proto/print.h"

enum { MILLION = 1000000 };
#define LONGEST_DWELL_MS 60000.0f
enum { LONGEST_FEED_MM = 200 };

static bool relative, filament_relative;
static float feed_mm_s = 20;
static struct place pending;
static uint16_t ticks_left;

static bool pending_queued(void) { return motion_move(&pending, feed_mm_s); }
static bool motion_finished(void) { return !motion_busy(); }
static bool dwell_over(void) { return !motion_busy() && (ticks_left == 0 || --ticks_left == 0); }

/* Filament that does not melt is ground to dust: the drive slips and the nozzle clogs. */
static const char *refuse_filament(int64_t way)
{
    if (way == 0) return NULL;
    if (way > (int64_t)LONGEST_FEED_MM * MILLION || way < -(int64_t)LONGEST_FEED_MM * MILLION) return "more than 200 mm of filament in one move";
    return heater_there(HOTEND) && heat_now(HOTEND) < EXTRUDE_FROM ? "the hot end is too cold to extrude" : NULL;
}

static void take_words(const struct words *w, const struct place *from, struct place *to)
{
    *to = *from;
    for (int i = 0; i < HOMED_AXES; i++)
        if (has(w, AXIS_LETTER[i])) to->mm[i] = word(w, AXIS_LETTER[i], 0) + (relative ? from->mm[i] : 0);
    if (has(w, 'E')) to->filament = word_millionths(w, 'E') + (relative || filament_relative ? from->filament : 0);
}

static enum outcome move(const struct words *w)
{
    struct place from = motion_target();
    take_words(w, &from, &pending);
    float feed = word(w, 'F', feed_mm_s * 60) / 60;
    if (!(feed > 0)) return fail("F must be above 0 mm/min");
    const char *refused = limits_refuse(&from, &pending);
    if (!refused) refused = refuse_filament(pending.filament - from.filament);
    if (refused) return fail(refused);
    feed_mm_s = feed;
    return pending_queued() ? DONE : going_on(pending_queued);
}

static enum outcome dwell(const struct words *w)
{
    float ms = word(w, 'P', 0) + 1000 * word(w, 'S', 0);
    if (!(ms >= 0 && ms <= LONGEST_DWELL_MS)) return fail("dwell must be 0 to 60 s");
    ticks_left = (uint16_t)ms;
    return going_on(dwell_over);
}

static enum outcome home(const struct words *w)
{
    uint8_t axes = 0;
    for (int i = 0; i < HOMED_AXES; i++)
        if (has(w, AXIS_LETTER[i])) axes |= (uint8_t)(1u << i);
    const char *refused = homing_begin(axes ? axes : 7);
    return refused ? fail(refused) : going_on(homing_done);
}

static enum outcome set_relative(bool on) { relative = on; filament_relative = on; return DONE; }
static enum outcome absolute_on(const struct words *w) { (void)w; return set_relative(false); }
static enum outcome relative_on(const struct words *w) { (void)w; return set_relative(true); }
static enum outcome filament_absolute_on(const struct words *w) { (void)w; filament_relative = false; return DONE; }
static enum outcome filament_relative_on(const struct words *w) { (void)w; filament_relative = true; return DONE; }

static enum outcome declare(const struct words *w)
{
    if (!has(w, 'E')) return fail("only E can be declared, home the axes");
    motion_declare_filament(word_millionths(w, 'E'));
    return DONE;
}

static enum outcome wait_for_moves(const struct words *w) { (void)w; return going_on(motion_finished); }

static enum outcome motors_off(const struct words *w)
{
    (void)w;
    motion_release();
    homing_forget();
    return DONE;
}

void moves_stop(void)
{
    homing_abandon();
    motion_halt();
    motion_release();
    /* Motors that are halted at speed and let go stand anywhere. */
    homing_forget();
}

/* Another count of steps for a millimetre: the place told so far was another. A probe's height moves what it found. */
void moves_changed(int place, float before)
{
    if (place >= SET_STEPS_X && place < SET_STEPS_X + HOMED_AXES) {
        homing_forget_axis(place - SET_STEPS_X);
#if FRAME_KINEMATICS == FRAME_KINEMATICS_CROSS_BELT
        /* Both motors move both axes. */
        homing_forget_axis(X);
        homing_forget_axis(Y);
#endif
        motion_settle();
    }
    if (place == SET_PROBE_OFFSET_Z && homed_by_probe()) motion_declare(Z, motion_target().mm[Z] + before - setting[SET_PROBE_OFFSET_Z]);
}

static void tell_place(void)
{
    static const char *const NAME[HOMED_AXES] = {"x", "y", "z"};
    struct place now = motion_position();
    print("at");
    for (int i = 0; i < HOMED_AXES; i++) {
        print_name(NAME[i]);
        print_float(now.mm[i], 3);
    }
    print_name("e");
    print_millionths(now.filament);
    print_name("homed");
    for (int i = 0; i < HOMED_AXES; i++) print_char(homed(i) ? NAME[i][0] : '-');
    print_end();
}

static void tell_input(const char *name, const struct input *input)
{
    if (input->pin < 0) return;
    print_name(name);
    print(input_met(input) ? "closed" : "open");
}

static void tell_switches(void)
{
    print("switch");
    tell_input("x", switch_of(X));
    tell_input("y", switch_of(Y));
    tell_input("z", switch_of(Z));
    tell_input("probe", probe_input());
    if (probe_input()->pin >= 0) {
        print_name("pin");
        print(probe_deployed() ? "out" : "in");
    }
    print_end();
}

int moves_lines(void) { return 2; }
void moves_tell(int line) { if (line == 0) tell_place(); else tell_switches(); }

static enum outcome position(const struct words *w) { (void)w; tell_place(); return DONE; }
static enum outcome endstops(const struct words *w) { (void)w; tell_switches(); return DONE; }

const struct command MOVE_COMMANDS[] = {
    {NULL, 'G', 0, false, false, "XYZEF", NULL, move},
    {NULL, 'G', 1, false, false, "XYZEF", NULL, move},
    {NULL, 'G', 4, false, false, "PS", NULL, dwell},
    {NULL, 'G', 28, false, true, NULL, "XYZ", home},
    {NULL, 'G', 90, false, false, NULL, NULL, absolute_on},
    {NULL, 'G', 91, false, false, NULL, NULL, relative_on},
    {NULL, 'M', 82, false, false, NULL, NULL, filament_absolute_on},
    {NULL, 'M', 83, false, false, NULL, NULL, filament_relative_on},
    {NULL, 'G', 92, false, false, "E", NULL, declare},
    {NULL, 'M', 84, true, true, NULL, NULL, motors_off},
    {NULL, 'M', 400, false, false, NULL, NULL, wait_for_moves},
    {NULL, 'M', 114, true, false, NULL, NULL, position},
    {NULL, 'M', 119, true, false, NULL, NULL, endstops},
    NO_COMMAND,
};
