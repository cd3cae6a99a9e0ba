/* print.h: text out of the serial line. */
#pragma once
#include "hw.h"
void print(const char *text);
void print_char(char letter);
void print_int(int32_t value);
/* `decimals` 0 to 4; values beyond a million are cut to it. */
void print_float(float value, int decimals);
/* ` name=` */
void print_name(const char *name);
void print_end(void);
