/* slider.c: half a millimetre to either side of nothing, a letter each 0.05 mm. */
#include "panel/slider.h"
#include "core/number.h"
#include "core/settings.h"
#include "panel/panel_words.h"

#if HAS_SLIDER
#define LETTER_MM 0.05f
enum { TRACK_ROW = 4, MIDDLE = SCREEN_COLUMNS / 2, LAST = SCREEN_COLUMNS - 1 };

void slider_touch(int column)
{
    float now = setting[SET_NUDGE_START], wanted = (float)(column - MIDDLE) * LETTER_MM;
    if (wanted > now + TOUCH_LEAP) wanted = now + TOUCH_LEAP;
    if (wanted < now - TOUCH_LEAP) wanted = now - TOUCH_LEAP;
    if (setting_allows(SET_NUDGE_START, wanted)) setting_put(SET_NUDGE_START, wanted);
}

void slider_draw(void)
{
    int32_t at = MIDDLE + nearest(setting[SET_NUDGE_START] / LETTER_MM);
    screen_text(0, 0, WORD_BACK);
    screen_text(2, screen_number(2, screen_text(2, 0, WORD_NUDGE " "), setting[SET_NUDGE_START], 2), " mm");
    for (int column = 0; column <= LAST; column++) screen_text(TRACK_ROW, column, column == MIDDLE ? ":" : "-");
    screen_text(TRACK_ROW, at < 0 ? 0 : at > LAST ? LAST : (int)at, "O");
}
#endif
