/* screen.c: letters into the display's memory. A pixel display keeps eight rows of pixels a byte, row after row. */
#include "panel/screen.h"
#include "core/number.h"
#include "hal/hw.h"
#include "panel/font.h"

#if DISPLAY_KIND != DISPLAY_KIND_NONE
static char wanted[SCREEN_ROWS][SCREEN_COLUMNS], shown[SCREEN_ROWS][SCREEN_COLUMNS];
static uint8_t wanted_marks, shown_marks;

void screen_clear(void)
{
    for (int row = 0; row < SCREEN_ROWS; row++)
        for (int column = 0; column < SCREEN_COLUMNS; column++) wanted[row][column] = ' ';
    wanted_marks = 0;
}

int screen_text(int row, int column, const char *text)
{
    for (; *text && column < SCREEN_COLUMNS; text++) wanted[row][column++] = *text;
    return column;
}

int screen_number(int row, int column, float value, int decimals)
{
    static const int32_t SCALE[] = {1, 10, 100};
    char digits[14];
    int count = 0;
    int32_t scaled = nearest(value * (float)SCALE[decimals]);
    bool negative = scaled < 0;
    uint32_t left = negative ? (uint32_t)-(int64_t)scaled : (uint32_t)scaled;
    for (; left || count <= decimals; left /= 10) {
        if (count == decimals && decimals) digits[count + 1] = '.';
        digits[count < decimals || !decimals ? count : count + 1] = (char)('0' + left % 10);
        count++;
    }
    if (decimals) {
        digits[decimals] = '.';
        count++;
    }
    char text[16];
    int at = 0;
    if (negative) text[at++] = '-';
    while (count) text[at++] = digits[--count];
    text[at] = 0;
    return screen_text(row, column, text);
}

void screen_mark(int row) { wanted_marks |= (uint8_t)(1u << row); }

#if DISPLAY_KIND == DISPLAY_KIND_PIXEL
enum { PIXEL_COLUMNS = 128, CELL = FONT_COLUMNS + 1 };

static void send(int row, int column, char letter, bool marked)
{
    const uint8_t *columns = font_letter(letter);
    uint32_t at = (uint32_t)(row * PIXEL_COLUMNS + column * CELL);
    for (uint32_t i = 0; i < CELL; i++) {
        uint8_t pixels = i < FONT_COLUMNS ? columns[i] : 0;
        hw_display(at + i, marked ? (uint8_t)~pixels : pixels);
    }
}
#else
/* A marked row begins with an arrow of its own, see menu.c. */
static void send(int row, int column, char letter, bool marked)
{
    (void)marked;
    hw_display((uint32_t)(row * SCREEN_COLUMNS + column), letter);
}
#endif

/* A row that begins or ends to stand out is sent anew. */
static void forget_row(int row)
{
    for (int column = 0; column < SCREEN_COLUMNS; column++) shown[row][column] = 0;
    shown_marks ^= (uint8_t)(1u << row);
}

/* Letters are looked at in turn, a few a call, once for each page that is drawn. */
enum { LOOKED_AT = 42, CELLS = SCREEN_ROWS * SCREEN_COLUMNS };
static uint16_t next = CELLS;

void screen_drawn(void)
{
    for (int row = 0; row < SCREEN_ROWS; row++)
        if ((wanted_marks ^ shown_marks) >> row & 1) forget_row(row);
    next = 0;
}

void screen_send(int most)
{
    for (int looked = 0; most && looked < LOOKED_AT && next < CELLS; looked++) {
        char letter = (&wanted[0][0])[next], *there = &shown[0][0] + next;
        if (letter != *there) {
            int row = next / SCREEN_COLUMNS;
            send(row, next % SCREEN_COLUMNS, letter, shown_marks >> row & 1);
            *there = letter;
            most--;
        }
        next++;
    }
}

void screen_forget(void)
{
    for (int row = 0; row < SCREEN_ROWS; row++)
        for (int column = 0; column < SCREEN_COLUMNS; column++) shown[row][column] = 0;
}

#if DISPLAY_PICTURE
#if DISPLAY_KIND == DISPLAY_KIND_PIXEL
/* A wheel with eight teeth round (64, 28): a ring, and four bars through it that end as teeth. */
static bool inked(int x, int y)
{
    int far = x * x + y * y, across = x + y, along = x - y;
    bool bar = (x > -5 && x < 5) || (y > -5 && y < 5) || (across > -7 && across < 7) || (along > -7 && along < 7);
    return (far >= 90 && far < 330) || (far >= 330 && far < 560 && bar);
}

void screen_picture(int page)
{
    for (int x = 0; x < PIXEL_COLUMNS; x++) {
        uint8_t pixels = 0;
        for (int bit = 0; bit < 8; bit++)
            if (inked(x - 64, page * 8 + bit - 30)) pixels |= (uint8_t)(1u << bit);
        hw_display((uint32_t)(page * PIXEL_COLUMNS + x), pixels);
    }
}
#else
void screen_picture(int page)
{
    if (page) return;
    screen_clear();
    screen_text(0, 6, "._/ \\_.");
    screen_text(1, 6, "<  O  >");
    screen_text(2, 6, "'-\\ /-'");
    screen_text(3, 6, "Lantern");
    screen_drawn();
    for (int i = 0; i < SCREEN_ROWS; i++) screen_send(SCREEN_COLUMNS);
}
#endif
#endif
#endif
