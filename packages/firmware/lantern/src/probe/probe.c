/* probe.c: letting the probe out, drawing it in, reading it. */
#include "probe/probe.h"
#include "option_probe.h"
#include "option_sense.h"
#include "pins_probe.h"

#if PROBE_KIND == PROBE_KIND_NONE
static const struct input NONE = {.pin = -1};
const struct input *probe_input(void) { return &NONE; }
void probe_deploy(bool out) { (void)out; }
bool probe_deployed(void) { return false; }
uint16_t probe_ticks(void) { return 0; }
#else
enum { SERVO_PERIOD_US = 20000 };
/* Its own header or that of the Z switch: where the harness says, unless the set-up says the other one. */
#if PROBE_PLUG == PROBE_PLUG_Z_HEADER
enum { SIGNAL = PIN_Z_HEADER >= 0 ? PIN_Z_HEADER : PIN_PROBE_SIGNAL };
#else
enum { SIGNAL = PIN_PROBE_SIGNAL == PIN_Z_HEADER && PIN_PROBE_HEADER >= 0 ? PIN_PROBE_HEADER : PIN_PROBE_SIGNAL };
#endif
static const struct input INPUT = {SIGNAL, PROBE_PULL_UP, PROBE_TRIGGERED == PROBE_TRIGGERED_HIGH};
static bool deployed;
static uint16_t ticks_left;

#if PROBE_KIND == PROBE_KIND_PIN
_Static_assert(PIN_PROBE_SERVO >= 0, "[probe.kind] a pin probe needs a servo lead to be let out");
#endif
_Static_assert(SIGNAL >= 0, "[probe.kind] the probe's signal lead is not connected");

void probe_start(void)
{
    input_start(&INPUT);
    probe_deploy(false);
}

const struct input *probe_input(void) { return &INPUT; }
bool probe_deployed(void) { return deployed; }
uint16_t probe_ticks(void) { return PIN_PROBE_SERVO >= 0 ? (uint16_t)(PROBE_DEPLOY_TIME * 1000) : 0; }

void probe_deploy(bool out)
{
    deployed = out;
    if (PIN_PROBE_SERVO >= 0) hw_pwm(PIN_PROBE_SERVO, SERVO_PERIOD_US, out ? PROBE_DEPLOY : PROBE_STOW);
}

static bool arrived(void) { return ticks_left == 0 || --ticks_left == 0; }

static enum outcome move_pin(bool out)
{
    probe_deploy(out);
    ticks_left = probe_ticks();
    return going_on(arrived);
}

static enum outcome deploy(const struct words *w) { (void)w; return move_pin(true); }
static enum outcome stow(const struct words *w) { (void)w; return move_pin(false); }

#if PROBE_ALARM
static bool let_out;

static bool cleared(void)
{
    if (!arrived()) return false;
    if (!let_out) {
        let_out = true;
        probe_deploy(true);
        ticks_left = (uint16_t)(probe_ticks() + 1);
        return false;
    }
    bool stuck = input_met(&INPUT);
    probe_deploy(false);
    return stuck ? failed(MSG_PROBE_STUCK) : true;
}

/* In and out once more: a pin that hung is free then, or it is stuck. */
static enum outcome clear(const struct words *w)
{
    (void)w;
    let_out = false;
    probe_deploy(false);
    ticks_left = (uint16_t)(probe_ticks() + 1);
    return going_on(cleared);
}
#endif

const struct command PROBE_COMMANDS[] = {
#if PROBE_ALARM
    VERB("probe clear", AT_REST, NULL, clear),
#endif
    CODE('M', 401, 0, NULL, NULL, deploy),
    CODE('M', 402, ASLEEP_TOO, NULL, NULL, stow),
    NO_COMMAND,
};
#endif
