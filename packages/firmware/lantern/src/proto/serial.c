/* serial.c: the receive interrupt. The emergency stop is recognised here byte by byte, apart from the line buffers, so that
 * it is heard whatever else runs and however full they are. */
#include "proto/serial.h"
#include "core/stop.h"
#include "messages.h"
#include "option_link.h"
#include "proto/commands.h"
#include "proto/print.h"

_Static_assert(LINK_BAUD >= 9600, "[link.baud] below 9600 baud a stop would take too long to arrive");

/* Beside the lines that wait one is received: what does not wait is heard however many do. */
enum { RECEIVED = 32, PLACES = LINES + 1 };
static char lines[PLACES][LINE_LENGTH];
static uint8_t oldest, waiting, length;
static const char *unreadable;
/* What is left of the line of a stop is no command. */
static bool ignoring;

void lantern_serial(void);

void serial_start(void) { hw_serial_open(LINK_HOST_PORT == LINK_HOST_PORT_SECOND, LINK_BAUD); }

/* Where a line stands on the way to "M112": spaces and a line number may come before it, zeros inside. */
enum stop_stage { AHEAD, LINE_NUMBER, LETTER, ONE, TWO, WHOLE, OTHER };
static enum stop_stage stage;

static bool ends_word(char byte) { return byte == ' ' || byte == ';' || byte == '*' || byte == '\n' || byte == '\r'; }

static enum stop_stage after(enum stop_stage now, char byte)
{
    bool digit = byte >= '0' && byte <= '9';
    switch (now) {
    case AHEAD:
    case LINE_NUMBER:
        if (byte == 'M' || byte == 'm') return LETTER;
        if (byte == 'N' && now == AHEAD) return LINE_NUMBER;
        if (byte == ' ') return now;
        return digit && now == LINE_NUMBER ? LINE_NUMBER : OTHER;
    case LETTER: return byte == '1' ? ONE : byte == '0' ? LETTER : OTHER;
    case ONE: return byte == '1' ? TWO : OTHER;
    case TWO: return byte == '2' ? WHOLE : OTHER;
    case WHOLE:
    case OTHER: break;
    }
    return OTHER;
}

/* True at the byte that ends the word M112. */
static bool stop_heard(char byte)
{
    bool ends_line = byte == '\n' || byte == '\r';
    if (stage == OTHER && !ends_line) return false;
    bool heard = stage == WHOLE && ends_word(byte);
    stage = ends_line ? AHEAD : after(stage, byte);
    return heard;
}

static void refuse(const char *why)
{
    print("error: ");
    print(why);
    print(", nothing done");
    print_end();
}

static void line_complete(void)
{
    uint8_t closing = length;
    length = 0;
    if (unreadable) {
        refuse(unreadable);
        unreadable = NULL;
        return;
    }
    if (closing == 0) return;
    char *line = lines[(oldest + waiting) % PLACES];
    line[closing] = 0;
    if (commands_at_once(line)) return;
    if (waiting == LINES) refuse(MSG_LINES_FULL);
    else waiting++;
}

static void take(char byte)
{
    if (stop_heard(byte)) {
        stop_now("", MSG_BY_HOST);
        ignoring = byte != '\n' && byte != '\r';
        return;
    }
    if (byte == '\n' || byte == '\r') {
        if (!ignoring) line_complete();
        ignoring = false;
        return;
    }
    if (ignoring || unreadable) return;
    if (byte < ' ' || byte > '~') unreadable = MSG_LINE_GARBLED;
    else if (length == LINE_LENGTH - 1) unreadable = MSG_LINE_LONG;
    else lines[(oldest + waiting) % PLACES][length++] = byte;
}

EXPORT(lantern_serial) void lantern_serial(void)
{
    char bytes[RECEIVED];
    for (uint32_t count; (count = hw_serial_read(bytes, RECEIVED)) > 0;)
        for (uint32_t i = 0; i < count; i++) take(bytes[i]);
}

char *serial_line(void) { return waiting ? lines[oldest] : NULL; }

void serial_done(void)
{
    if (!waiting) return;
    oldest = (uint8_t)((oldest + 1) % PLACES);
    waiting--;
}

void serial_forget(void)
{
    waiting = length = 0;
    unreadable = NULL;
}
