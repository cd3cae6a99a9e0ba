/* serial_panel.c: once a second, each line as its number, a space, its text and a line feed. */
#include "panel/serial_panel.h"
#include "core/number.h"
#include "core/stop.h"
#include "heat/heat.h"
#include "job/job.h"
#include "option_identity.h"
#include "proto/state.h"

#if HAS_SERIAL_PANEL
_Static_assert(LINK_DISPLAY_PORT != LINK_DISPLAY_PORT_FIRST || LINK_HOST_PORT == LINK_HOST_PORT_SECOND, "[link.display-port] host and display cannot sit on the same port");
_Static_assert(LINK_DISPLAY_PORT != LINK_DISPLAY_PORT_SECOND || LINK_HOST_PORT == LINK_HOST_PORT_FIRST, "[link.display-port] host and display cannot sit on the same port");

enum { PERIOD_TICKS = 1000, PORT = LINK_DISPLAY_PORT == LINK_DISPLAY_PORT_SECOND };
static uint16_t ticks;

static void say(const char *text)
{
    while (*text) hw_panel_write(PORT, *text++);
}

static void say_number(float value)
{
    char digits[12];
    int count = 0;
    int32_t left = nearest(value);
    if (left < 0) { say("-"); left = -left; }
    do { digits[count++] = (char)('0' + left % 10); left /= 10; } while (left);
    while (count) hw_panel_write(PORT, digits[--count]);
}

static void say_body(const char *lead, int heater)
{
    say(lead);
    say_number(heat_now(heater));
    say("/");
    say_number(heat_target(heater));
    say(" C\n");
}

void serial_panel_tick(void)
{
    if (++ticks < PERIOD_TICKS) return;
    ticks = 0;
    say("1 " MACHINE_NAME "\n");
    say_body("2 hot end ", HOTEND);
    if (heater_there(BED)) say_body("3 bed ", BED);
    say("4 ");
    say(job_paused() && !stopped() ? "paused" : state_doing());
    say("\n");
}
#endif
