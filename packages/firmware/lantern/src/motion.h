/* motion.h: moves are queued in mm and run as motor steps. */
#pragma once
#include "hw.h"
#include "axes.h"

void motion_start(void);
/* False when the queue is full: try again later. Speeds are limited to each axis' own. */
bool motion_move(const float target[AXES], float speed_mm_s);
bool motion_busy(void);
/* Drops what is queued and running; the position stays true because steps already made are counted. */
void motion_halt(void);
void motion_release(void);
/* Where the last queued move ends. */
void motion_target(float at[AXES]);
/* Where the motors are now. */
void motion_position(float at[AXES]);
/* Declares the present place of one axis. Only while nothing moves. */
void motion_declare(int axis, float at);
/* While watching, the running move ends at once when `watch` says so. NULL ends watching. */
void motion_watch(bool (*watch)(void));
