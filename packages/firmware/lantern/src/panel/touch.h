/* touch.h: the layer of a pixel display that tells where a finger is. Its numbers differ from one layer to the next: until two
 * marks were touched nothing else is heard. */
#pragma once
#include "panel/screen.h"
#define HAS_TOUCH (DISPLAY_TOUCH && DISPLAY_KIND == DISPLAY_KIND_PIXEL)
_Static_assert(!DISPLAY_TOUCH || DISPLAY_KIND == DISPLAY_KIND_PIXEL, "[display.touch] only a display of pixels has a layer that is touched");
#if HAS_TOUCH
/* A finger has come down: where, in letters. */
struct tap {
    int row, column;
};
/* Asked once a beat; true once for each finger that comes down. */
bool touch_tapped(struct tap *tap);
/* The marks were touched; else their page is to be drawn. */
bool touch_known(void);
void touch_draw_mark(void);
#endif
