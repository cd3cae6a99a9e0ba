/* card_print.h: a print whose lines come from the card. */
#pragma once
#include "card/fat.h"
#include "proto/commands.h"
#if CARD_PRINT
void card_print_tick(void);
void card_print_stop(void);
int card_print_lines(void);
void card_print_tell(int line);
/* Prints a file of the card from a place on. */
void card_print_from(const struct fat_file *file, uint32_t at);
/* The file being printed, and where its next line begins; NULL when none is. */
const struct fat_file *card_printing(uint32_t *at);
extern const struct command CARD_COMMANDS[];
#endif
