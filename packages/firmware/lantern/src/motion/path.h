/* path.h: the way of one command, queued piece by piece: cut short where the nozzle follows a map, or along an arc. */
#pragma once
#include "motion/motion.h"
#include "option_motion.h"
/* A straight way from where the last move ends. */
void path_straight(const struct place *to, float mm_s);
#if ARCS_ON
/* An arc about a centre beside the start; a whole circle where it ends as it begins. */
void path_arc(const struct place *to, float centre_x, float centre_y, bool clockwise, float mm_s);
/* The corners of the box that the arc does not leave. */
void path_box(struct place *low, struct place *high);
#endif
/* Queues what there is room for; true when all is queued. Asked every millisecond. */
bool path_queued(void);
void path_forget(void);
