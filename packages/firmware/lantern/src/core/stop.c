/* stop.c: everything off, and why. */
#include "core/stop.h"
#include "core/feature.h"
#include "proto/print.h"
#include "proto/serial.h"

static const char *subject, *reason;

void stop_now(const char *about, const char *because)
{
    for (int i = 0; i < FEATURE_COUNT; i++)
        if (FEATURES[i].stop) FEATURES[i].stop();
    serial_forget();
    commands_forget();
    if (!reason) {
        subject = about;
        reason = because;
    }
    print_forget();
    print("stopped: ");
    stop_print();
    print_end();
}

bool stopped(void) { return reason != NULL; }

void stop_print(void)
{
    print(subject);
    print(reason);
}

void stop_clear(void) { reason = NULL; }
