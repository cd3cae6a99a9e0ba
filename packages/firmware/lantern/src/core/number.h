/* number.h: conversions that are defined for every value. */
#pragma once
#include "hal/hw.h"

/* Nearest whole number; beyond 32 bits the nearest that fits, and 0 for what is no number. */
static inline int32_t nearest(float value)
{
    if (!(value > -2147483520.0f)) return value < 0 ? INT32_MIN : 0;
    if (value > 2147483520.0f) return INT32_MAX;
    return (int32_t)(value + (value < 0 ? -0.5f : 0.5f));
}

/* Downwards, for values that are never negative. */
static inline uint32_t whole(float value)
{
    if (!(value > 0)) return 0;
    return value > 4294967040.0f ? UINT32_MAX : (uint32_t)value;
}

static inline float magnitude(float value) { return value < 0 ? -value : value; }
static inline float smaller(float a, float b) { return a < b ? a : b; }
static inline float larger(float a, float b) { return a > b ? a : b; }
