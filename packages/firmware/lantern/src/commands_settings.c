#include "commands.h"
#include "motion.h"
#include "print.h"
#include "report.h"
#include "settings.h"
#include "store.h"

/* Takes over the values of the letters given; all are checked before any is changed. */
static enum outcome change(const struct words *w, const char *letters, int count, float *values, float low, float high)
{
    for (int i = 0; i < count; i++) {
        float value = word(w, letters[i], values[i]);
        if (has(w, letters[i]) && (value < low || value > high)) return fail("value out of range, nothing changed");
    }
    for (int i = 0; i < count; i++) values[i] = word(w, letters[i], values[i]);
    return DONE;
}

static enum outcome steps(const struct words *w)
{
    float at[AXES];
    if (motion_busy()) return fail("moving");
    motion_position(at);
    enum outcome outcome = change(w, AXIS_LETTER, AXES, settings.steps, 0.5f, 50000);
    /* The same place in mm is another count of steps now. */
    for (int i = 0; i < AXES; i++) motion_declare(i, at[i]);
    return outcome;
}
static enum outcome speeds(const struct words *w) { return change(w, AXIS_LETTER, AXES, settings.speed, 0.1f, 10000); }
static enum outcome accels(const struct words *w) { return change(w, AXIS_LETTER, AXES, settings.accel, 1, 100000); }
static enum outcome offset(const struct words *w) { return change(w, AXIS_LETTER, 3, settings.probe_offset, -200, 200); }
static enum outcome hotend_pid(const struct words *w) { return change(w, "PID", 3, &settings.pid[HOTEND].p, 0, 10000); }
static enum outcome bed_pid(const struct words *w) { return change(w, "PID", 3, &settings.pid[BED].p, 0, 10000); }

static enum outcome save(const struct words *w)
{
    (void)w;
    return store_save() ? DONE : fail("this board or image keeps no settings");
}

static enum outcome load(const struct words *w)
{
    (void)w;
    enum store_state state = store_load();
    print("store");
    print_name("state");
    print(store_word(state));
    print_end();
    return DONE;
}

static enum outcome reset(const struct words *w) { (void)w; settings_reset(); return DONE; }
static enum outcome report(const struct words *w) { (void)w; settings_report(); return DONE; }

const struct command SETTING_COMMANDS[] = {
    {NULL, 'M', 92, false, steps},      {NULL, 'M', 201, false, accels}, {NULL, 'M', 203, false, speeds}, {NULL, 'M', 301, false, hotend_pid},
    {NULL, 'M', 304, false, bed_pid},   {NULL, 'M', 500, false, save},   {NULL, 'M', 501, false, load},   {NULL, 'M', 502, false, reset},
    {NULL, 'M', 503, true, report},     {"offset", 0, 0, false, offset}, {NULL, 0, 0, false, NULL},
};
