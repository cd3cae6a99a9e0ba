/* serial.h: lines in. Bytes are gathered as they arrive; whole lines wait until the command before them is done. */
#pragma once
#include "hal/hw.h"
enum { LINE_LENGTH = 96, LINES = 4 };
void serial_start(void);
/* The oldest waiting line, or NULL. It stays until serial_done. */
char *serial_line(void);
void serial_done(void);
void serial_forget(void);
