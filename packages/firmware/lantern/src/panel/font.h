/* font.h: how letters look on a display of pixels. */
#pragma once
#include "option_display.h"
#include <stdint.h>
#if DISPLAY_KIND == DISPLAY_KIND_PIXEL
enum { FONT_COLUMNS = 5 };
const uint8_t *font_letter(char letter);
#endif
