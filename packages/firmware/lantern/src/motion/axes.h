/* axes.h: axes and motors. On a plain frame motor i moves axis i; on a cross-belt frame X and Y share two motors. */
#pragma once
enum { X, Y, Z, E, AXES };
enum { HOMED_AXES = 3, MOTORS = AXES };
static const char AXIS_LETTER[AXES] = {'X', 'Y', 'Z', 'E'};
