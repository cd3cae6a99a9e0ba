/* job.h: the print as a whole: paused or not, and where its lines come from. */
#pragma once
#include "option_filament.h"
#include "proto/commands.h"
#define HAS_PAUSE PAUSE_ON
#if HAS_PAUSE
/* The print waits, or is about to. */
bool job_paused(void);
void job_tick(void);
void job_stop(void);
/* Nothing waits any longer for a print that is over. */
void job_end(void);
int job_lines(void);
void job_tell(int line);
extern const struct command JOB_COMMANDS[];
#else
static inline bool job_paused(void) { return false; }
static inline void job_end(void) {}
#endif
/* Pauses as soon as the moves under way have ended, and says why. An image that cannot pause ends the print instead. */
void job_pause(const char *why);
/* A print from the card is under way, paused or not: what moves and comes from elsewhere would end in it. */
bool job_from_card(void);
/* A line of what is printed was refused. */
void job_refused(void);
