/* slider.h: the live nudge as a track that is touched. A finger far from where the slider stands takes it only `touch.leap` further:
 * a leap of it would ram the plate. */
#pragma once
#include "bed/shape.h"
#include "panel/touch.h"
#define HAS_SLIDER (HAS_TOUCH && NUDGE_ON && DISPLAY_MENUS == DISPLAY_MENUS_FULL)
#if HAS_SLIDER
/* The finger is at this letter of the track. */
void slider_touch(int column);
void slider_draw(void);
#endif
