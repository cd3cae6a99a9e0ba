/* screen.h: rows of letters, whatever the display is. What did not change is not sent again. */
#pragma once
#include "option_display.h"
#include <stdbool.h>
#include <stdint.h>
#if DISPLAY_KIND != DISPLAY_KIND_NONE
#if DISPLAY_KIND == DISPLAY_KIND_PIXEL
enum { SCREEN_ROWS = 8, SCREEN_COLUMNS = 21 };
#else
enum { SCREEN_ROWS = 4, SCREEN_COLUMNS = 20 };
#endif
void screen_clear(void);
/* Writes from a column on; what does not fit is cut. Returns the column behind it. */
int screen_text(int row, int column, const char *text);
int screen_number(int row, int column, float value, int decimals);
/* The row stands out. */
void screen_mark(int row);
/* The page is whole: what differs is to be sent. */
void screen_drawn(void);
/* Looks at a few letters and sends those that differ from what stands there, at most so many. */
void screen_send(int most);
/* Everything is sent anew. */
void screen_forget(void);
/* One row of a picture, at power-on. */
void screen_picture(int row);
#endif
