/* map.h: heights of the plate over a grid, taken by touch or by hand, kept in the store. */
#pragma once
#include "bed/shape.h"
#include "proto/commands.h"
#if HAS_MAP
void map_start(void);
void map_tick(void);
void map_stop(void);
/* mm above the nominal plane; 0 while the map is not in use. Beyond its edge the height of the edge. */
float map_at(float x, float y);
bool map_in_use(void);
int map_lines(void);
void map_tell(int line);
/* Z was homed: the map is dropped, taken up again, or to be taken afresh (true). */
bool map_after_home(void);
/* Takes a map up again that is whole. */
void map_use_again(void);
/* Takes the map by touch; asked every millisecond after it. NULL, or why it cannot begin. */
const char *map_take_begin(void);
bool map_taken(void);
extern const struct command MAP_COMMANDS[];
#else
static inline bool map_in_use(void) { return false; }
static inline void map_use_again(void) {}
#endif
