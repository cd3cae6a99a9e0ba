/* moves.c: G0 to M400. A way is checked whole before any of it is queued. */
#include "motion/moves.h"
#include "bed/by_hand.h"
#include "bed/map.h"
#include "bed/tilt.h"
#include "core/number.h"
#include "core/settings.h"
#include "core/trig.h"
#include "heat/heat.h"
#include "messages.h"
#include "core/stop.h"
#include "motion/gantry.h"
#include "motion/homing.h"
#include "motion/limits.h"
#include "motion/motion.h"
#include "motion/origins.h"
#include "motion/path.h"
#include "motion/switches.h"
#include "motion/tools.h"
#include "option_extrude.h"
#include "option_motion.h"
#include "probe/probe.h"
#include "proto/print.h"

enum { MILLION = 1000000 };
#define LONGEST_DWELL_MS 60000.0f
enum { LONGEST_FEED_MM = 200 };

static bool relative, filament_relative, z_asked;
static float feed_mm_s = 20;
static uint16_t ticks_left;

struct modes moves_modes(void) { return (struct modes){feed_mm_s, relative, filament_relative}; }

void moves_take_modes(const struct modes *modes)
{
    feed_mm_s = modes->feed_mm_s;
    relative = modes->relative;
    filament_relative = modes->filament_relative;
}

static bool motion_finished(void) { return !motion_busy(); }
static bool dwell_over(void) { return !motion_busy() && (ticks_left == 0 || --ticks_left == 0); }

/* Filament that does not melt is ground to dust: the drive slips and the nozzle clogs. */
static const char *refuse_filament(int64_t way)
{
    if (way == 0) return NULL;
    if (way > (int64_t)LONGEST_FEED_MM * MILLION || way < -(int64_t)LONGEST_FEED_MM * MILLION) return MSG_FILAMENT_LONG;
    return heater_there(tool_hotend()) && heat_now(tool_hotend()) < EXTRUDE_FROM ? MSG_TOO_COLD : NULL;
}

/* mm of filament from what E says: as it is, or out of a volume. */
static int64_t filament_of(int64_t told)
{
#if FILAMENT_VOLUMETRIC
    float radius = setting[SET_FILAMENT_DIAMETER] / 2;
    return (int64_t)((double)told / (double)(HALF_TURN * radius * radius));
#else
    return told;
#endif
}

/* `by`: from where it stands, whatever the modes are. */
static void take_words(const struct words *w, const struct place *from, struct place *to, bool by)
{
    *to = *from;
    for (int i = 0; i < HOMED_AXES; i++)
        if (has(w, AXIS_LETTER[i])) to->mm[i] = word(w, AXIS_LETTER[i], 0) + (by || relative ? from->mm[i] : origin_of(i));
    if (has(w, 'E')) to->filament = filament_of(word_millionths(w, 'E')) + (by || relative || filament_relative ? from->filament : 0);
}

/* The feed of a line in mm/s; 0 is none. */
static float feed_of(const struct words *w) { return larger(0, word(w, 'F', feed_mm_s * 60) / 60); }

static enum outcome go(void) { return path_queued() ? DONE : going_on(path_queued); }

static enum outcome straight(const struct words *w, bool by)
{
    struct place from = motion_target(), to;
    take_words(w, &from, &to, by);
    float feed = feed_of(w);
    if (!(feed > 0)) return fail(MSG_FEED_ABOVE_0);
    const char *refused = limits_refuse(&from, &to);
    if (!refused) refused = refuse_filament(to.filament - from.filament);
    if (refused) return fail(refused);
    if (!by) feed_mm_s = feed;
    path_straight(&to, feed);
    return go();
}

static enum outcome move(const struct words *w) { return straight(w, false); }
/* Modes and feed of a print stay as they are. */
static enum outcome move_by(const struct words *w) { return straight(w, true); }

#if ARCS_ON
/* Start and end may lie so far from one circle. */
#define OFF_CIRCLE_MM 0.1f

static enum outcome arc(const struct words *w, bool clockwise)
{
    struct place from = motion_target(), to, low, high;
    take_words(w, &from, &to, false);
    float feed = feed_of(w), i = word(w, 'I', 0), j = word(w, 'J', 0);
    if (!(feed > 0)) return fail(MSG_FEED_ABOVE_0);
    float centre_x = from.mm[X] + i, centre_y = from.mm[Y] + j, x = to.mm[X] - centre_x, y = to.mm[Y] - centre_y;
    float radius = __builtin_sqrtf(i * i + j * j);
    if (!(radius > 0) || magnitude(__builtin_sqrtf(x * x + y * y) - radius) > OFF_CIRCLE_MM) return fail(MSG_NO_CIRCLE);
    path_arc(&to, centre_x, centre_y, clockwise, feed);
    path_box(&low, &high);
    const char *refused = limits_refuse(&from, &low);
    if (!refused) refused = limits_refuse(&from, &high);
    if (!refused) refused = refuse_filament(to.filament - from.filament);
    if (refused) { path_forget(); return fail(refused); }
    feed_mm_s = feed;
    return go();
}

static enum outcome arc_clockwise(const struct words *w) { return arc(w, true); }
static enum outcome arc_back(const struct words *w) { return arc(w, false); }
#endif

static enum outcome dwell(const struct words *w)
{
    float ms = word(w, 'P', 0) + 1000 * word(w, 'S', 0);
    if (!(ms >= 0 && ms <= LONGEST_DWELL_MS)) return fail(MSG_DWELL_RANGE);
    ticks_left = (uint16_t)ms;
    return going_on(dwell_over);
}

#if HAS_MAP
/* The map is dropped, taken up again or taken afresh. */
static bool map_again(void)
{
    if (!map_after_home()) return true;
    const char *refused = map_take_begin();
    if (refused) return failed(refused);
    going_on(map_taken);
    return true;
}
#endif

/* What follows a Z that was found. */
static bool z_found(void)
{
#if HAS_TILT
    tilt_forget();
#endif
#if HAS_MAP
    return map_again();
#else
    return true;
#endif
}

#if HAS_GANTRY
/* Levelled, Z is another one: it is found once more. */
static bool found_again(void) { return homing_done() && z_found(); }

static bool levelled(void)
{
    if (!gantry_level()) return false;
    if (stopped()) return true;
    const char *refused = homing_begin(1u << Z);
    if (refused) return failed(refused);
    going_on(found_again);
    return true;
}
#endif

static bool home_over(void)
{
    if (!homing_done()) return false;
    if (stopped() || !z_asked) return true;
#if HAS_GANTRY
    const char *refused = gantry_begin();
    if (refused) return failed(refused);
    going_on(levelled);
    return true;
#else
    return z_found();
#endif
}

static enum outcome home(const struct words *w)
{
    uint8_t axes = 0;
    for (int i = 0; i < HOMED_AXES; i++)
        if (has(w, AXIS_LETTER[i])) axes |= (uint8_t)(1u << i);
    z_asked = !axes || axes >> Z & 1;
    limits_lift(false);
    by_hand_stop();
    const char *refused = homing_begin(axes ? axes : 7);
    return refused ? fail(refused) : going_on(home_over);
}

static enum outcome set_relative(bool on) { relative = on; filament_relative = on; return DONE; }
static enum outcome absolute_on(const struct words *w) { (void)w; return set_relative(false); }
static enum outcome relative_on(const struct words *w) { (void)w; return set_relative(true); }
static enum outcome filament_absolute_on(const struct words *w) { (void)w; filament_relative = false; return DONE; }
static enum outcome filament_relative_on(const struct words *w) { (void)w; filament_relative = true; return DONE; }

static enum outcome declare(const struct words *w)
{
    if (!has(w, 'E')) return fail(MSG_ONLY_E_DECLARED);
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
    path_forget();
    limits_lift(false);
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
#if NUDGE_ON
    /* While moves are made, the next one carries it; else it is made at once. */
    struct place here = motion_target();
    if (place == SET_NUDGE_START && !motion_busy()) {
        if (homed(Z)) motion_move(&here, setting[SET_SPEED_Z]);
        else motion_settle();
    }
#endif
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
    CODE('G', 0, IN_PRINT, "XYZEF", NULL, move),
    CODE('G', 1, IN_PRINT, "XYZEF", NULL, move),
    VERB("move by", AT_REST | BY_HAND, "XYZEF", move_by),
#if ARCS_ON
    CODE('G', 2, IN_PRINT, "XYZIJEF", NULL, arc_clockwise),
    CODE('G', 3, IN_PRINT, "XYZIJEF", NULL, arc_back),
#endif
    CODE('G', 4, IN_PRINT, "PS", NULL, dwell),
    CODE('G', 28, AT_REST | IN_PRINT, NULL, "XYZ", home),
    CODE('G', 90, IN_PRINT, NULL, NULL, absolute_on),
    CODE('G', 91, IN_PRINT, NULL, NULL, relative_on),
    CODE('M', 82, IN_PRINT, NULL, NULL, filament_absolute_on),
    CODE('M', 83, IN_PRINT, NULL, NULL, filament_relative_on),
    CODE('G', 92, IN_PRINT, "E", NULL, declare),
    CODE('M', 84, ASLEEP_TOO | AT_REST | IN_PRINT, NULL, NULL, motors_off),
    CODE('M', 400, IN_PRINT, NULL, NULL, wait_for_moves),
    CODE('M', 114, ASLEEP_TOO, NULL, NULL, position),
    CODE('M', 119, ASLEEP_TOO, NULL, NULL, endstops),
    NO_COMMAND,
};
