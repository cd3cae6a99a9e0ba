/* feature.h: what a part of Lantern brings with it. The table in features/features.c holds those whose option is on; every
 * other piece of code goes through the table, so that a feature that is off leaves nothing behind. */
#pragma once
#include "proto/commands.h"

struct feature {
    void (*start)(void);
    /* Once a millisecond, in the order of the table. */
    void (*tick)(void);
    /* Everything off, at once; called from the receive interrupt too. */
    void (*stop)(void);
    /* A setting was changed: the place of its row. */
    void (*changed)(int setting, float before);
    /* How many lines of the state report are its own, and each of them. */
    int (*lines)(void);
    void (*tell)(int line);
    const struct command *commands;
};
extern const struct feature FEATURES[];
extern const int FEATURE_COUNT;
