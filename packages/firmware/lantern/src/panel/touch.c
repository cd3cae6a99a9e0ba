/* touch.c: two marks, at the first and at the last letter of the screen, tell how the layer counts. What it said there is kept
 * with the stored settings. A finger held for five seconds asks for the marks anew: a wrong one leaves nothing else to touch. */
#include "panel/touch.h"
#include "core/number.h"
#include "core/settings.h"
#include "hal/hw.h"
#include "panel/panel_words.h"

#if HAS_TOUCH
/* In beats of eight milliseconds; a finger counts when it has been down for three. */
enum { SETTLED = 3, HELD = 625, LAST_ROW = SCREEN_ROWS - 1, LAST_COLUMN = SCREEN_COLUMNS - 1 };
/* Two marks of a layer that works lie at least so far apart in what it says. */
#define SPAN 200.0f
static uint16_t down;
static bool second_mark;
static float first_x, first_y;

bool touch_known(void)
{
    return setting[SET_TOUCH_LEFT] != setting[SET_TOUCH_RIGHT] && setting[SET_TOUCH_TOP] != setting[SET_TOUCH_BOTTOM];
}

static void keep(float left, float right, float top, float bottom)
{
    setting_put(SET_TOUCH_LEFT, left);
    setting_put(SET_TOUCH_RIGHT, right);
    setting_put(SET_TOUCH_TOP, top);
    setting_put(SET_TOUCH_BOTTOM, bottom);
}

static float apart(float one, float other) { return one > other ? one - other : other - one; }

static void touch_mark(float x, float y)
{
    if (!second_mark) {
        first_x = x;
        first_y = y;
    } else if (apart(x, first_x) >= SPAN && apart(y, first_y) >= SPAN) {
        keep(first_x, x, first_y, y);
    }
    second_mark = !second_mark;
}

/* Which of 0 to `last` a number is, between what the layer says at both. */
static int scaled(float value, float at_first, float at_last, int last)
{
    int32_t which = nearest((value - at_first) * (float)last / (at_last - at_first));
    return which < 0 ? 0 : which > last ? last : (int)which;
}

bool touch_tapped(struct tap *tap)
{
    int32_t raw = hw_touch();
    if (raw < 0) { down = 0; return false; }
    if (down <= HELD && ++down == HELD) keep(0, 0, 0, 0);
    if (down != SETTLED) return false;
    float x = (float)(raw >> 12), y = (float)(raw & 4095);
    if (!touch_known()) { touch_mark(x, y); return false; }
    tap->column = scaled(x, setting[SET_TOUCH_LEFT], setting[SET_TOUCH_RIGHT], LAST_COLUMN);
    tap->row = scaled(y, setting[SET_TOUCH_TOP], setting[SET_TOUCH_BOTTOM], LAST_ROW);
    return true;
}

void touch_draw_mark(void)
{
    screen_text(3, 1, WORD_TOUCH_MARK);
    screen_text(second_mark ? LAST_ROW : 0, second_mark ? LAST_COLUMN : 0, "+");
}
#endif
