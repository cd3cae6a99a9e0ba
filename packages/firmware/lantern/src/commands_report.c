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
static enum outcome temperatures(const struct words *w) { (void)w; heat_report(); return DONE; }

static enum outcome position(const struct words *w)
{
    (void)w;
    float at[AXES];
    motion_position(at);
    print("at");
    for (int i = 0; i < AXES; i++) { print_name(AXIS_NAME[i]); print_float(at[i], 3); }
    print_name("homed");
    for (int i = 0; i < HOMED_AXES; i++) print_char(homed(i) ? AXIS_NAME[i][0] : '-');
    print_end();
    return DONE;
}

static enum outcome endstops(const struct words *w)
{
    (void)w;
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
    return DONE;
}

static enum outcome restart(const struct words *w) { (void)w; stop_clear(); homing_forget(); return DONE; }

const struct command REPORT_COMMANDS[] = {
    {NULL, 'M', 105, true, temperatures}, {NULL, 'M', 114, true, position}, {NULL, 'M', 115, true, who}, {NULL, 'M', 119, true, endstops}, {"wake", 0, 0, true, restart}, {NULL, 0, 0, false, NULL},
};
