/* serial_panel.h: a display that is told over a serial port. It draws by itself; what it shows is four lines. */
#pragma once
#include "option_link.h"
#define HAS_SERIAL_PANEL (LINK_DISPLAY_PORT != LINK_DISPLAY_PORT_NONE)
#if HAS_SERIAL_PANEL
void serial_panel_tick(void);
#endif
