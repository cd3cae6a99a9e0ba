/* tune.c: full power below the target, none above it. After the first swings the height A and the time T of each swing give
 * the gain at which the loop would swing by itself, K = 4 d / (π A) with d half the power (Åström and Hägglund). P, I and D are
 * set well below it, so that a target is reached without running over: P = K / 5, over T and T / 2. */
#include "heat/tune.h"
#include "core/number.h"
#include "core/settings.h"
#include "core/trig.h"
#include "heat/control.h"
#include "heat/heat.h"
#include "proto/print.h"

#if TUNE_ON
#define FULL 255.0f
#define PERIOD_S 0.1f
/* Readings wander: the relay turns so far beyond the target. */
#define BEYOND_C 0.3f
/* Swings that settle, and those that count; a swing that takes longer is none. */
enum { SETTLING = 2, COUNTED = 3 };
#define LONGEST_SWING_S 1200.0f

static int tuned = HEATERS;
static float centre, highest, lowest, swing_s, heights, times;
static bool heating;
static uint8_t swings;

/* What is switched off meanwhile is not tuned. */
bool tune_steers(int heater) { return heater == tuned && heat_target(heater) > 0; }
void tune_stop(void) { tuned = HEATERS; }

static void end_swing(void)
{
    if (swings++ >= SETTLING) {
        heights += (highest - lowest) / 2;
        times += swing_s;
    }
    print("tune");
    print_name("swing");
    print_int(swings);
    print_name("of");
    print_int(SETTLING + COUNTED);
    print_name("height");
    print_float(highest - lowest, 1);
    print_name("seconds");
    print_float(swing_s, 1);
    print_end();
    swing_s = 0;
    highest = lowest = centre;
}

float tune_duty(float now)
{
    swing_s += PERIOD_S;
    highest = larger(highest, now);
    lowest = smaller(lowest, now);
    if (heating && now > centre + BEYOND_C) heating = false;
    else if (!heating && now < centre - BEYOND_C) {
        heating = true;
        end_swing();
    }
    return heating ? control_cap(tuned) : 0;
}

static void take_over(void)
{
    float height = heights / (float)COUNTED, time = times / (float)COUNTED;
    float gain = 4 * (control_cap(tuned) * FULL / 2) / (HALF_TURN * height);
    float p = gain / 5, i = p / time, d = p * time / 2;
    int at = control_pid(tuned);
    const float found[] = {p, i, d};
    for (int k = 0; k < 3; k++) setting_put(at + k, smaller(found[k], SETTING_ROWS[at + k].most));
    print("tuned");
    print_name("p");
    print_float(setting[at], 3);
    print_name("i");
    print_float(setting[at + 1], 3);
    print_name("d");
    print_float(setting[at + 2], 3);
    print_end();
}

static bool over(void)
{
    bool whole = swings == SETTLING + COUNTED, lost = swing_s > LONGEST_SWING_S, cooled = !tune_steers(tuned);
    if (!whole && !lost && !cooled) return false;
    if (whole) take_over();
    int heater = tuned;
    tuned = HEATERS;
    heat_set(heater, 0);
    return whole ? true : failed(cooled ? MSG_COOLED : MSG_NO_SWING);
}

/* h=0 the hot end, h=1 the bed, h=2 the second hot end; c the temperature it swings round. */
static enum outcome tune(const struct words *w)
{
    static const uint8_t NAMED[] = {
        HOTEND, BED,
#if EXTRUDER_SECOND
        HOTEND_2,
#endif
    };
    float which = word(w, 'H', 0), c = word(w, 'C', 0);
    int nth = nearest(which);
    if (nth < 0 || nth >= (int)sizeof NAMED || (float)nth != which) return fail(MSG_NO_HEATER);
    if (!has(w, 'C')) return fail(MSG_TARGET_MISSING);
    if (!(c > 0)) return fail(MSG_TARGET_RANGE);
    /* It swings a few degrees beyond. */
    int heater = NAMED[nth];
    const char *refused = heat_set(heater, c);
    if (refused) return fail(refused);
    centre = highest = lowest = c;
    swing_s = heights = times = 0;
    swings = 0;
    heating = true;
    tuned = heater;
    return going_on(over);
}

const struct command TUNE_COMMANDS[] = {
    VERB("tune", AT_REST, "HC", tune),
    NO_COMMAND,
};
#endif
