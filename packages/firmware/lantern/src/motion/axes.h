/* axes.h: axes and motors. On a plain frame motor i moves axis i; on a cross-belt frame X and Y share two motors. A second Z
 * motor with a driver of its own makes the steps of the first; a second extruder feeds in its turn. */
#pragma once
#include "option_motion.h"
enum { X, Y, Z, E, AXES };
enum { HOMED_AXES = 3, Z2 = AXES, E2 = AXES + SECOND_Z_ON, MOTORS = AXES + SECOND_Z_ON + EXTRUDER_SECOND };
/* What is set of the extruder whose motor feeds: of the first, or of the second. */
#define OF_EXTRUDER(motor, first, second) (EXTRUDER_SECOND && (motor) == E2 ? (second) : (first))
static const char AXIS_LETTER[AXES] = {'X', 'Y', 'Z', 'E'};
