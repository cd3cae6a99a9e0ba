/* beeper.h: a tone when something wants you. */
#pragma once
#include "option_display.h"
#include "pins_panel.h"
#include "proto/commands.h"
#define HAS_BEEPER (BEEPER_ON && PIN_BEEPER >= 0)
#if HAS_BEEPER
void beeper_tick(void);
void beeper_stop(void);
/* A tone of so many Hz and ms; the one that sounds ends. */
void beep(uint32_t hz, uint16_t ms);
extern const struct command BEEPER_COMMANDS[];
#else
static inline void beep(uint32_t hz, uint16_t ms) { (void)hz; (void)ms; }
#endif
