/* trig.h: what arcs need of angles, to a few millionths. */
#pragma once
#define HALF_TURN 3.14159265f

/* Sine of any angle within two turns. Folded to a quarter turn, then the series to the 9th power: off by 4e-6 at most. */
static inline float sine(float angle)
{
    while (angle > HALF_TURN) angle -= 2 * HALF_TURN;
    while (angle < -HALF_TURN) angle += 2 * HALF_TURN;
    if (angle > HALF_TURN / 2) angle = HALF_TURN - angle;
    if (angle < -HALF_TURN / 2) angle = -HALF_TURN - angle;
    float s = angle * angle;
    return angle * (1 + s * (-1 / 6.0f + s * (1 / 120.0f + s * (-1 / 5040.0f + s / 362880))));
}

static inline float cosine(float angle) { return sine(angle + HALF_TURN / 2); }

/* Angle of a direction, −half a turn to half a turn. Halved twice by tan(a/2) = tan a / (1 + √(1 + tan² a)), then the
 * series of the arc tangent. */
static inline float angle_of(float y, float x)
{
    float ay = y < 0 ? -y : y, ax = x < 0 ? -x : x;
    float big = ax > ay ? ax : ay, small = ax > ay ? ay : ax;
    if (big == 0) return 0;
    float t = small / big;
    for (int i = 0; i < 2; i++) t = t / (1 + __builtin_sqrtf(1 + t * t));
    float s = t * t, angle = 4 * t * (1 + s * (-1 / 3.0f + s * (1 / 5.0f + s * (-1 / 7.0f + s / 9))));
    if (ay > ax) angle = HALF_TURN / 2 - angle;
    if (x < 0) angle = HALF_TURN - angle;
    return y < 0 ? -angle : angle;
}
