/* motion.h: straight moves in mm; where the head is, and where it will be. */
#pragma once
#include "hal/hw.h"
#include "motion/axes.h"

/* A place: the head in mm, the extruder in millionths of a mm, so that its place stays exact. */
struct place {
    float mm[HOMED_AXES];
    int64_t filament;
};

void motion_start(void);
void motion_tick(void);
/* Queues a move from where the last one ends. False when the queue is full: try again later. Speeds and accelerations are
 * kept to each axis' own. */
bool motion_move(const struct place *to, float speed_mm_s);
/* Steps of the motor that feeds for a millimetre of filament. */
float motion_feed_steps(int motor);
#if EXTRUDER_SECOND
/* From now on this motor feeds. Only while nothing moves. */
void motion_feed_with(int motor);
#endif
#if SECOND_Z_ON
/* Moves the second Z motor alone; the place told stays. */
void motion_second_z(float mm, float mm_s);
#endif
bool motion_busy(void);
/* The moves under way feed filament. */
bool motion_feeds(void);
/* Ends all moves at once and knows where the motors stand: steps that were made are counted. */
void motion_halt(void);
void motion_release(void);
/* The last move ends where the motors stand: after a halt, or when a step is another way in mm than before. */
void motion_settle(void);
/* Where the last queued move ends. */
struct place motion_target(void);
/* Where the motors are now. */
struct place motion_position(void);
/* Declares where one axis really stands, whatever raises it. Only while nothing moves. */
void motion_declare(int axis, float mm);
/* Declares where the filament is, from the last queued move on. */
void motion_declare_filament(int64_t millionths);
/* The next moves end at the step at which this pin reads this level; -1 watches none. */
void motion_watch(int pin, int level);
/* The watch has ended a move since it was set. */
bool motion_watch_met(void);
