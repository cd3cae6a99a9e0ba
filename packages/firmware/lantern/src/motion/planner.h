/* planner.h: the ring of blocks. Looking ahead over it, speed is carried through corners as fast as each allows, and every
 * block can still be braked to rest at the end of the last. */
#pragma once
#include "motion/block.h"
enum { BLOCKS = 16 };
bool planner_full(void);
int planner_count(void);
/* Adds a block; `unit` is its direction, mm of each axis for one mm of its length. The planner is not full. */
void planner_add(const struct block *block, const float unit[AXES]);
/* The block to be carried out, or NULL. From then on its speeds at both ends stay. */
const struct block *planner_begin(float *exit_squared);
/* The block carried out is done. */
void planner_end(void);
void planner_clear(void);
/* Blocks added and blocks carried out since power-on; what was dropped counts as carried out. */
uint32_t planner_added(void);
uint32_t planner_ended(void);
/* The block carried out feeds filament. */
bool planner_feeds(void);
