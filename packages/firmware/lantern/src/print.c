#include "print.h"

void print_char(char letter) { hw_serial_write(letter); }

void print(const char *text)
{
    while (*text) print_char(*text++);
}

void print_int(int32_t value)
{
    char digits[11];
    int count = 0;
    uint32_t left = value < 0 ? 0u - (uint32_t)value : (uint32_t)value;
    if (value < 0) print_char('-');
    do digits[count++] = (char)('0' + left % 10); while (left /= 10);
    while (count) print_char(digits[--count]);
}

void print_float(float value, int decimals)
{
    static const int32_t SCALE[] = {1, 10, 100, 1000, 10000};
    int32_t scale = SCALE[decimals];
    if (value > 1e6f) value = 1e6f;
    if (value < -1e6f) value = -1e6f;
    double scaled = (double)value * scale;
    int64_t whole = (int64_t)(scaled + (scaled < 0 ? -0.5 : 0.5));
    if (whole < 0) { print_char('-'); whole = -whole; }
    print_int((int32_t)(whole / scale));
    if (decimals == 0) return;
    print_char('.');
    for (int32_t rest = (int32_t)(whole % scale); (scale /= 10) > 0; rest %= scale) print_char((char)('0' + rest / scale));
}

void print_name(const char *name)
{
    print_char(' ');
    print(name);
    print_char('=');
}

void print_end(void) { print_char('\n'); }
