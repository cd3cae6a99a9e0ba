#include "report.h"
#include "option_store.h"
#include "print.h"
#include "settings.h"

#if STORE_REPORT
static const char *const AXIS_SMALL[] = {"x", "y", "z"};
static void line(const char *command, const char *letters, const float *values, int count, int decimals)
{
    print("setting ");
    print(command);
    for (int i = 0; i < count; i++) {
        print_char(' ');
        print_char(letters[i]);
        print_float(values[i], decimals);
    }
    print_end();
}

void settings_report(void)
{
    line("M92", AXIS_LETTER, settings.steps, AXES, 4);
    line("M203", AXIS_LETTER, settings.speed, AXES, 2);
    line("M201", AXIS_LETTER, settings.accel, AXES, 1);
    print("setting offset");
    for (int i = 0; i < 3; i++) { print_name(AXIS_SMALL[i]); print_float(settings.probe_offset[i], 3); }
    print_end();
    line("M301", "PID", &settings.pid[HOTEND].p, 3, 3);
    line("M304", "PID", &settings.pid[BED].p, 3, 3);
}
#else
void settings_report(void) { print("error: this image has no settings report"); print_end(); }
#endif
