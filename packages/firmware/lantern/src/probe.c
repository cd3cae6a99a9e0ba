#include "probe.h"
#include "option_probe.h"
#include "pins_probe.h"

#if PROBE_KIND == PROBE_KIND_NONE
void probe_start(void) {}
bool probe_there(void) { return false; }
void probe_deploy(bool out) { (void)out; }
bool probe_deployed(void) { return false; }
bool probe_triggered(void) { return false; }
#else
enum { SERVO_PERIOD_US = 20000 };
static bool deployed;

#if PROBE_KIND == PROBE_KIND_PIN
_Static_assert(PIN_PROBE_SERVO >= 0, "[probe.kind] a pin probe needs a servo lead to be let out");
#endif
_Static_assert(PIN_PROBE_SIGNAL >= 0, "[probe.kind] the probe's signal lead is not connected");

void probe_start(void)
{
    hw_pin_mode(PIN_PROBE_SIGNAL, PROBE_PULL_UP ? PIN_INPUT_PULL_UP : PIN_INPUT);
    probe_deploy(false);
}

bool probe_there(void) { return true; }
bool probe_deployed(void) { return deployed; }

void probe_deploy(bool out)
{
    deployed = out;
    if (PIN_PROBE_SERVO >= 0) hw_pwm(PIN_PROBE_SERVO, SERVO_PERIOD_US, out ? PROBE_DEPLOY : PROBE_STOW);
}

bool probe_triggered(void)
{
    return (hw_pin_read(PIN_PROBE_SIGNAL) != 0) == (PROBE_TRIGGERED == PROBE_TRIGGERED_HIGH);
}
#endif
