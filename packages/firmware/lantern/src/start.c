/* start.c: power-on and the slow tick. */
#include "commands.h"
#include "heat.h"
#include "identity.h"
#include "motion.h"
#include "print.h"
#include "probe.h"
#include "serial.h"
#include "settings.h"
#include "store.h"
#include "switches.h"

EXPORT(lantern_start) void lantern_start(void)
{
    settings_reset();
    enum store_state state = store_load();
    serial_start();
    motion_start();
    switches_start();
    probe_start();
    heat_start();
    print("awake");
    print_name("store");
    print(store_word(state));
    print_end();
    identity_report();
}

/* Once a millisecond. */
EXPORT(lantern_tick) void lantern_tick(void)
{
    hw_watchdog();
    heat_tick();
    commands_tick();
}
