/* filament_sensor.c: read while the first extruder is fed, whose filament it sees; a wire that flickers is no end. */
#include "job/filament_sensor.h"
#include "hal/input.h"
#include "job/job.h"
#include "motion/motion.h"
#include "motion/tools.h"
#include "proto/print.h"

#if HAS_FILAMENT_SENSOR
enum { PATIENCE_MS = 200 };
static const struct input INPUT = {PIN_FILAMENT, FILAMENT_PULL_UP, FILAMENT_READS == FILAMENT_READS_HIGH};
static uint16_t gone_ms;

void filament_sensor_start(void) { input_start(&INPUT); }

void filament_sensor_tick(void)
{
    if (tool_in_use() != 0 || !motion_feeds() || !input_met(&INPUT)) { gone_ms = 0; return; }
    if (++gone_ms < PATIENCE_MS) return;
    gone_ms = 0;
    if (job_paused()) return;
    print("filament");
    print_name("state");
    print("gone");
    print_end();
    job_pause(MSG_FILAMENT_GONE);
}

int filament_sensor_lines(void) { return 1; }

void filament_sensor_tell(int line)
{
    (void)line;
    print("filament");
    print_name("state");
    print(input_met(&INPUT) ? "gone" : "there");
    print_end();
}
#endif
