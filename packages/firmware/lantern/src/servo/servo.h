/* servo.h: servos by number; that of a probe is the first. */
#pragma once
#include "option_servo.h"
#include "proto/commands.h"
#if SERVO_COUNT > 0
int servo_lines(void);
void servo_tell(int line);
extern const struct command SERVO_COMMANDS[];
#endif
