/* by_hand.h: heights taken without a probe. The nozzle goes from point to point; you lower it onto a shim by short moves
 * and say `map next` or `tilt next`. */
#pragma once
#include "bed/shape.h"
#include "proto/commands.h"
#define HAS_BY_HAND (MAP_SHIM || TILT_BY == TILT_BY_BY_HAND)

/* What is taken: how many points, where each is, what becomes of its height, and what follows the last. */
struct hand {
    int points;
    struct spot (*spot)(int point);
    void (*put)(int point, float mm);
    void (*over)(void);
};
#if HAS_BY_HAND
/* Why it cannot be taken now; NULL where it can. S is how thick the shim is, mm: heights are those of the plate. */
const char *by_hand_refuse(const struct hand *what, const struct words *w);
enum outcome by_hand_begin(const struct hand *what, const struct words *w);
/* A point is being taken: Z may go a little below its travel. */
bool by_hand_under_way(void);
void by_hand_stop(void);
extern const struct command BY_HAND_COMMANDS[];
#else
static inline bool by_hand_under_way(void) { return false; }
static inline void by_hand_stop(void) {}
#endif
