/* beeper.c: half of each period high. */
#include "panel/beeper.h"
#include "core/number.h"

#if HAS_BEEPER
enum { LOWEST_HZ = 50, HIGHEST_HZ = 10000, LONGEST_MS = 10000, USUAL_HZ = 1000, USUAL_MS = 200 };
static uint16_t left;

static void quiet(void) { hw_pwm(PIN_BEEPER, USUAL_HZ, 0); }

void beep(uint32_t hz, uint16_t ms)
{
    uint32_t period = 1000000 / hz;
    hw_pin_mode(PIN_BEEPER, PIN_OUTPUT);
    hw_pwm(PIN_BEEPER, period, period / 2);
    left = ms;
}

void beeper_tick(void)
{
    if (left && --left == 0) quiet();
}

void beeper_stop(void)
{
    if (!left) return;
    left = 0;
    quiet();
}

static enum outcome tone(const struct words *w)
{
    float hz = word(w, 'S', (float)USUAL_HZ), ms = word(w, 'P', (float)USUAL_MS);
    if (!(hz >= (float)LOWEST_HZ && hz <= (float)HIGHEST_HZ && ms >= 1 && ms <= (float)LONGEST_MS)) return fail(MSG_TONE_RANGE);
    beep(whole(hz), (uint16_t)ms);
    return DONE;
}

const struct command BEEPER_COMMANDS[] = {
    CODE('M', 300, ASLEEP_TOO, "SP", NULL, tone),
    NO_COMMAND,
};
#endif
