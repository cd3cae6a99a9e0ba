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

static bool is_stop(const char *line)
{
    return line[0] == 'M' && line[1] == '1' && line[2] == '1' && line[3] == '2' && (line[4] == 0 || line[4] == ' ');
}

static void line_complete(void)
{
    char *line = lines[(oldest + waiting) % LINES];
    line[length] = 0;
    bool unreadable = too_long || garbled;
    const char *why = too_long ? "error: line too long, nothing done" : "error: line garbled, nothing done";
    bool empty = length == 0;
    length = 0;
    too_long = garbled = false;
    if (unreadable) { print(why); print_end(); return; }
    if (empty) return;
    if (is_stop(line)) { stop_now("asked by the host"); return; }
    waiting++;
}

static void take(char byte)
{
    if (byte == '\n' || byte == '\r') { line_complete(); return; }
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
