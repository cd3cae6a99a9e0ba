/* state.c: what Lantern does now, who it is, and going on after a stop. */
#include "proto/state.h"
#include "core/feature.h"
#include "core/identity.h"
#include "core/stop.h"
#include "motion/homing.h"
#include "motion/motion.h"
#include "proto/print.h"

const char *state_doing(void)
{
    if (stopped()) return "stopped";
    if (homing_under_way()) return "homing";
    if (motion_busy()) return "moving";
    return commands_busy() ? "waiting" : "idle";
}

static void doing_line(const char *lead)
{
    print(lead);
    print("state");
    print_name("doing");
    print(state_doing());
    if (stopped()) {
        print_name("why");
        print_char('"');
        stop_print();
        print_char('"');
    }
    print_end();
}

/* Line 0 is its own; the others are the features' in turn. */
bool state_line(int line, const char *lead)
{
    if (line == 0) { doing_line(lead); return true; }
    line--;
    for (int i = 0; i < FEATURE_COUNT; i++) {
        if (!FEATURES[i].lines) continue;
        int count = FEATURES[i].lines();
        if (line < count) { print(lead); FEATURES[i].tell(line); return true; }
        line -= count;
    }
    return false;
}

static int next_line;
static bool state_on(void) { return !state_line(next_line++, ""); }
static bool who_on(void) { return !identity_report(next_line++); }

static enum outcome state(const struct words *w)
{
    (void)w;
    next_line = 0;
    return telling(state_on);
}

static enum outcome who(const struct words *w)
{
    (void)w;
    next_line = 0;
    return telling(who_on);
}

static enum outcome wake(const struct words *w)
{
    (void)w;
    stop_clear();
    return DONE;
}

const struct command STATE_COMMANDS[] = {
    CODE('M', 115, ASLEEP_TOO, NULL, NULL, who),
    VERB("state", ASLEEP_TOO, NULL, state),
    VERB("wake", ASLEEP_TOO, NULL, wake),
    NO_COMMAND,
};
