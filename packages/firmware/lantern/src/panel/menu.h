/* menu.h: what the knob leads to. */
#pragma once
#include "panel/screen.h"
#if DISPLAY_KIND != DISPLAY_KIND_NONE
bool menu_open(void);
void menu_enter(void);
void menu_leave(void);
void menu_turn(int steps);
void menu_press(void);
/* A row of the screen was touched. */
void menu_tap(int row, int column);
void menu_draw(void);
#endif
