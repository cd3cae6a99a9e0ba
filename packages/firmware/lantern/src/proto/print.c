/* print.c: text into the outgoing ring. */
#include "proto/print.h"

static char ring[PRINT_RING];
static uint16_t oldest, waiting;
static bool mid_line;

void print_char(char letter)
{
    if (waiting == PRINT_RING) return;
    ring[(oldest + waiting) % PRINT_RING] = letter;
    waiting++;
}

bool print_room(void) { return PRINT_RING - waiting >= PRINT_LINE; }

void print_send(void)
{
    if (!waiting) return;
    for (uint32_t room = hw_serial_room(); room && waiting; room--) {
        char letter = ring[oldest];
        hw_serial_write(letter);
        mid_line = letter != '\n';
        oldest = (uint16_t)((oldest + 1) % PRINT_RING);
        waiting--;
    }
}

/* A line of which a part has gone out is ended, so that the next begins at its own start. */
void print_forget(void)
{
    waiting = 0;
    if (mid_line) print_end();
}

void print(const char *text)
{
    while (*text) print_char(*text++);
}

static void print_digits(uint64_t value, int least)
{
    char digits[20];
    int count = 0;
    do {
        digits[count++] = (char)('0' + (char)(value % 10));
        value /= 10;
    } while (value || count < least);
    while (count) print_char(digits[--count]);
}

void print_int(int32_t value)
{
    if (value < 0) print_char('-');
    print_digits(value < 0 ? (uint64_t)(-(int64_t)value) : (uint64_t)value, 1);
}

/* So many units of which `scale` make one, to `decimals` places. */
static void print_scaled(int64_t value, uint32_t scale, int decimals)
{
    if (value < 0) { print_char('-'); value = -value; }
    print_digits((uint64_t)value / scale, 1);
    if (decimals == 0) return;
    print_char('.');
    print_digits((uint64_t)value % scale, decimals);
}

void print_float(float value, int decimals)
{
    static const uint32_t SCALE[] = {1, 10, 100, 1000, 10000};
    if (!(value <= 1e6f)) value = 1e6f;
    if (value < -1e6f) value = -1e6f;
    double scaled = (double)value * SCALE[decimals];
    print_scaled((int64_t)(scaled + (scaled < 0 ? -0.5 : 0.5)), SCALE[decimals], decimals);
}

void print_millionths(int64_t value) { print_scaled((value + (value < 0 ? -500 : 500)) / 1000, 1000, 3); }

void print_name(const char *name)
{
    print_char(' ');
    print(name);
    print_char('=');
}

void print_end(void) { print_char('\n'); }
