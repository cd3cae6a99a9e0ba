#include "commands.h"
#include "heat.h"
#include "homing.h"
#include "identity.h"
#include "motion.h"
#include "print.h"
#include "probe.h"
#include "stop.h"
#include "switches.h"

static const char *const AXIS_NAME[AXES] = {"x", "y", "z", "e"};

static enum outcome who(const struct words *w) { (void)w; identity_report(); return DONE; }
static enum outcome temperatures(const struct words *w) { (void)w; heat_report(""); return DONE; }

static void place_report(void)
{
    float at[AXES];
    motion_position(at);
    print("at");
    for (int i = 0; i < AXES; i++) { print_name(AXIS_NAME[i]); print_float(at[i], 3); }
    print_name("homed");
    for (int i = 0; i < HOMED_AXES; i++) print_char(homed(i) ? AXIS_NAME[i][0] : '-');
    print_end();
}

static void switches_report(void)
{
    print("switch");
    for (int i = 0; i < HOMED_AXES; i++) {
        if (!switch_there(i)) continue;
        print_name(AXIS_NAME[i]);
        print(switch_pressed(i) ? "closed" : "open");
    }
    if (probe_there()) {
        print_name("probe");
        print(probe_triggered() ? "closed" : "open");
        print_name("pin");
        print(probe_deployed() ? "out" : "in");
    }
    print_end();
}

static const char *doing(bool going_on)
{
    if (stopped()) return "stopped";
    if (homing_under_way()) return "homing";
    if (motion_busy()) return "moving";
    return going_on ? "waiting" : "idle";
}

/* Everything that changes by itself, one line after another; `lead` begins each. */
void state_report(const char *lead, bool going_on)
{
    print(lead);
    print("state");
    print_name("doing");
    print(doing(going_on));
    if (stopped()) { print_name("why"); print_char('"'); print(stopped_because()); print_char('"'); }
    print_end();
    print(lead);
    place_report();
    print(lead);
    switches_report();
    heat_report(lead);
}

static enum outcome position(const struct words *w) { (void)w; place_report(); return DONE; }
static enum outcome endstops(const struct words *w) { (void)w; switches_report(); return DONE; }
static enum outcome state(const struct words *w) { (void)w; state_report("", false); return DONE; }

static enum outcome restart(const struct words *w) { (void)w; stop_clear(); homing_forget(); return DONE; }

const struct command REPORT_COMMANDS[] = {
    {NULL, 'M', 105, true, temperatures}, {NULL, 'M', 114, true, position}, {NULL, 'M', 115, true, who}, {NULL, 'M', 119, true, endstops}, {"state", 0, 0, true, state}, {"wake", 0, 0, true, restart}, {NULL, 0, 0, false, NULL},
};
