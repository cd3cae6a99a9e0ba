#include "commands.h"
#include "heat.h"
#include "settings.h"

static bool hotend_reached(void) { return heat_reached(HOTEND); }
static bool bed_reached(void) { return heat_reached(BED); }

static enum outcome target(const struct words *w, int heater)
{
    if (!has(w, 'S')) return fail("S, the target in degrees, is missing");
    if (!heater_there(heater)) return fail("no such heater");
    return heat_target(heater, word(w, 'S', 0)) ? DONE : fail("target out of range");
}

static enum outcome hotend(const struct words *w) { return target(w, HOTEND); }
static enum outcome bed(const struct words *w) { return target(w, BED); }

static enum outcome hotend_wait(const struct words *w)
{
    enum outcome outcome = target(w, HOTEND);
    if (outcome != DONE) return outcome;
    going_on(hotend_reached);
    return GOING_ON;
}

static enum outcome bed_wait(const struct words *w)
{
    enum outcome outcome = target(w, BED);
    if (outcome != DONE) return outcome;
    going_on(bed_reached);
    return GOING_ON;
}

const struct command HEAT_COMMANDS[] = {
    {NULL, 'M', 104, false, hotend}, {NULL, 'M', 109, false, hotend_wait}, {NULL, 'M', 140, false, bed}, {NULL, 'M', 190, false, bed_wait}, {NULL, 0, 0, false, NULL},
};
