/* probe.c: letting the probe out, drawing it in, reading it. */
#include "probe/probe.h"
#include "option_probe.h"
#include "pins_probe.h"

#if PROBE_KIND == PROBE_KIND_NONE
static const struct input NONE = {.pin = -1};
const struct input *probe_input(void) { return &NONE; }
void probe_deploy(bool out) { (void)out; }
bool probe_deployed(void) { return false; }
#else
enum { SERVO_PERIOD_US = 20000 };
static const struct input INPUT = {PIN_PROBE_SIGNAL, PROBE_PULL_UP, PROBE_TRIGGERED == PROBE_TRIGGERED_HIGH};
static bool deployed;
static uint16_t ticks_left;

#if PROBE_KIND == PROBE_KIND_PIN
_Static_assert(PIN_PROBE_SERVO >= 0, "[probe.kind] a pin probe needs a servo lead to be let out");
#endif
_Static_assert(PIN_PROBE_SIGNAL >= 0, "[probe.kind] the probe's signal lead is not connected");

void probe_start(void)
{
    input_start(&INPUT);
    probe_deploy(false);
}

const struct input *probe_input(void) { return &INPUT; }
bool probe_deployed(void) { return deployed; }

void probe_deploy(bool out)
{
    deployed = out;
    if (PIN_PROBE_SERVO >= 0) hw_pwm(PIN_PROBE_SERVO, SERVO_PERIOD_US, out ? PROBE_DEPLOY : PROBE_STOW);
}

static bool arrived(void) { return ticks_left == 0 || --ticks_left == 0; }

static enum outcome move_pin(bool out)
{
    probe_deploy(out);
    ticks_left = PIN_PROBE_SERVO >= 0 ? PROBE_TICKS : 0;
    return going_on(arrived);
}

static enum outcome deploy(const struct words *w) { (void)w; return move_pin(true); }
static enum outcome stow(const struct words *w) { (void)w; return move_pin(false); }

const struct command PROBE_COMMANDS[] = {
    {NULL, 'M', 401, false, false, NULL, NULL, deploy},
    {NULL, 'M', 402, true, false, NULL, NULL, stow},
    NO_COMMAND,
};
#endif
