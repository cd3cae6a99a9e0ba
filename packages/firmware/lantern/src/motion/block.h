/* block.h: one straight move as it is planned and carried out. */
#pragma once
#include "hal/hw.h"
#include "motion/axes.h"
struct block {
    int32_t steps[MOTORS]; /* with their sign */
    uint8_t feeder;        /* the motor that feeds filament */
    float length;          /* mm of the head's way; of the filament where the head stands */
    float speed, accel;    /* mm/s and mm/s² at most */
    float corner_squared;  /* square of the speed at which it may be entered at most */
    float entry_squared;   /* as planned */
};
