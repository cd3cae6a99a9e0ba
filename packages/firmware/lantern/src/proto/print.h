/* print.h: text out of the serial line. What is printed waits in a ring until the transmitter takes it; who prints much
 * asks for room first and goes on later. */
#pragma once
#include "hal/hw.h"
/* Room for the longest single line there is, with what the line before it may have left. */
enum { PRINT_RING = 512, PRINT_LINE = 160 };
void print(const char *text);
void print_char(char letter);
void print_int(int32_t value);
/* `decimals` 0 to 4; values beyond a million are cut to it. */
void print_float(float value, int decimals);
/* A value in millionths, to three decimals. */
void print_millionths(int64_t value);
/* ` name=` */
void print_name(const char *name);
void print_end(void);
/* Whether another line is sure to fit. */
bool print_room(void);
/* Hands on what the transmitter takes. Called every millisecond. */
void print_send(void);
/* Drops what waits. */
void print_forget(void);
