/* tilt.h: the plate's tilt, taken out of every move: three heights make a plane. */
#pragma once
#include "bed/shape.h"
#include "proto/commands.h"
#if HAS_TILT
/* mm above the nominal plane; 0 while no tilt is known. */
float tilt_at(float x, float y);
/* Z was homed: what was known of the tilt is not true any more. */
void tilt_forget(void);
int tilt_lines(void);
void tilt_tell(int line);
extern const struct command TILT_COMMANDS[];
#endif
