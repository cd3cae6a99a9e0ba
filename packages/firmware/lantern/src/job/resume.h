/* resume.h: a print that goes on after the power was gone. The place is noted at each new layer and every ten seconds: on the
 * card, or in the board's own store where the card is never written. */
#pragma once
#include "option_card.h"
#include "proto/commands.h"
#if RESUME_ON && CARD_PRINT
void resume_start(void);
void resume_tick(void);
/* The print is over: nothing is left to go on with. */
void resume_forget(void);
int resume_lines(void);
void resume_tell(int line);
enum outcome resume_begin(const struct words *w);
#endif
