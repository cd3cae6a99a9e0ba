/* serial.c: the receive interrupt. The emergency stop is recognised here, so that it is heard whatever else runs. */
#include "serial.h"
#include "option_link.h"
#include "print.h"
#include "stop.h"

_Static_assert(LINK_BAUD >= 9600, "[link.baud] below 9600 baud a stop would take too long to arrive");

static char lines[LINES][LINE_LENGTH];
static uint8_t oldest, waiting, length;
static bool too_long, garbled;

void serial_start(void) { hw_serial_open(LINK_BAUD); }

/* Letters of "M112" matched since the line began; MISSED once one differs. Kept apart from the line buffer, so that a
 * stop is heard even when every buffer is full. */
enum { STOP_LENGTH = 4, MISSED = 255 };
static uint8_t stop_matched;

static void match_stop(char byte)
{
    static const char STOP[STOP_LENGTH] = {'M', '1', '1', '2'};
    if (stop_matched < STOP_LENGTH) stop_matched = byte == STOP[stop_matched] ? (uint8_t)(stop_matched + 1) : MISSED;
    else if (stop_matched == STOP_LENGTH && byte != ' ') stop_matched = MISSED;
}

static void line_complete(void)
{
    bool unreadable = too_long || garbled;
    const char *why = too_long ? "error: line too long, nothing done" : "error: line garbled, nothing done";
    uint8_t closing = length;
    bool empty = length == 0, stop = stop_matched == STOP_LENGTH;
    length = stop_matched = 0;
    too_long = garbled = false;
    if (stop) { stop_now("asked by the host"); return; }
    if (unreadable) { print(why); print_end(); return; }
    if (empty) return;
    lines[(oldest + waiting) % LINES][closing] = 0;
    waiting++;
}

static void take(char byte)
{
    if (byte == '\n' || byte == '\r') { line_complete(); return; }
    match_stop(byte);
    if (waiting == LINES) { too_long = true; return; }
    if (byte < ' ' || byte > '~') { garbled = true; return; }
    if (length == LINE_LENGTH - 1) { too_long = true; return; }
    lines[(oldest + waiting) % LINES][length++] = byte;
}

EXPORT(lantern_serial) void lantern_serial(void)
{
    for (int byte; (byte = hw_serial_read()) >= 0;) take((char)byte);
}

const char *serial_line(void) { return waiting ? lines[oldest] : NULL; }

void serial_done(void)
{
    if (!waiting) return;
    oldest = (oldest + 1) % LINES;
    waiting--;
}

void serial_forget(void) { waiting = length = 0; }
