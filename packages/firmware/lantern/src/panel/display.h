/* display.h: the machine's own display and its knob. */
#pragma once
#include "panel/screen.h"
#if DISPLAY_KIND != DISPLAY_KIND_NONE
void display_start(void);
void display_tick(void);
#endif
