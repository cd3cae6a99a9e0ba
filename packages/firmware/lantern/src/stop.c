#include "stop.h"
#include "heat.h"
#include "homing.h"
#include "motion.h"
#include "print.h"
#include "serial.h"

static const char *reason;

void stop_now(const char *because)
{
    heat_off();
    homing_abandon();
    motion_halt();
    motion_release();
    serial_forget();
    reason = because;
    print("stopped: ");
    print(because);
    print_end();
}

bool stopped(void) { return reason != NULL; }
const char *stopped_because(void) { return reason; }
void stop_clear(void) { reason = NULL; }
