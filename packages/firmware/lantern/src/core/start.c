/* start.c: power-on and the slow tick. */
#include "core/feature.h"
#include "core/identity.h"
#include "core/settings.h"
#include "core/store.h"
#include "proto/commands.h"
#include "proto/print.h"
#include "proto/serial.h"

void lantern_start(void);
void lantern_tick(void);

EXPORT(lantern_start) void lantern_start(void)
{
    settings_reset();
    enum store_state state = store_load();
    serial_start();
    for (int i = 0; i < FEATURE_COUNT; i++)
        if (FEATURES[i].start) FEATURES[i].start();
    store_report("awake", state);
    identity_report(0);
    identity_report(1);
}

/* Once a millisecond. */
EXPORT(lantern_tick) void lantern_tick(void)
{
    hw_watchdog();
    for (int i = 0; i < FEATURE_COUNT; i++)
        if (FEATURES[i].tick) FEATURES[i].tick();
    commands_tick();
    print_send();
}
