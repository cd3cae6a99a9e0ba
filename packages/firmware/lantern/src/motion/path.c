/* path.c: pieces of a way. Each ends where the exact way is; the last ends at the very place asked for. */
#include "motion/path.h"
#include "bed/shape.h"
#include "core/number.h"
#include "core/trig.h"

/* The nozzle leaves a cell of the map by far less than this over such a length. */
#define BENT_PIECE_MM 5.0f

static struct place from, to;
static float speed;
static uint32_t piece, pieces;

#if ARCS_ON
/* How far a piece may leave its arc, and the longest piece. */
#define LEAVES_MM 0.005f
#define ARC_PIECE_MM 2.0f
static bool round;
static float centre[2], radius, from_angle, sweep;
#endif

static uint32_t counted(float length, float most)
{
    uint32_t count = whole(length / most + 1);
    return count ? count : 1;
}

static void begin(const struct place *end, float mm_s)
{
    from = motion_target();
    to = *end;
    speed = mm_s;
    piece = 0;
}

void path_straight(const struct place *end, float mm_s)
{
    begin(end, mm_s);
    float x = to.mm[X] - from.mm[X], y = to.mm[Y] - from.mm[Y];
    pieces = shape_bends() ? counted(__builtin_sqrtf(x * x + y * y), BENT_PIECE_MM) : 1;
#if ARCS_ON
    round = false;
#endif
}

#if ARCS_ON
void path_arc(const struct place *end, float centre_x, float centre_y, bool clockwise, float mm_s)
{
    begin(end, mm_s);
    centre[X] = centre_x;
    centre[Y] = centre_y;
    float x = from.mm[X] - centre_x, y = from.mm[Y] - centre_y;
    radius = __builtin_sqrtf(x * x + y * y);
    from_angle = angle_of(y, x);
    sweep = angle_of(to.mm[Y] - centre_y, to.mm[X] - centre_x) - from_angle;
    bool back = to.mm[X] == from.mm[X] && to.mm[Y] == from.mm[Y];
    if (back) sweep = 0;
    if (clockwise && sweep >= 0) sweep -= 2 * HALF_TURN;
    if (!clockwise && sweep <= 0) sweep += 2 * HALF_TURN;
    /* A chord of length c leaves a circle by c² / 8r. */
    float chord = smaller(ARC_PIECE_MM, __builtin_sqrtf(8 * radius * LEAVES_MM));
    pieces = counted(magnitude(sweep) * radius, chord);
    round = true;
}

static bool swept(float angle)
{
    float by = angle - from_angle;
    while (by < 0) by += 2 * HALF_TURN;
    return sweep > 0 ? by <= sweep : by - 2 * HALF_TURN >= sweep;
}

void path_box(struct place *low, struct place *high)
{
    *low = *high = to;
    for (int i = X; i <= Y; i++) {
        low->mm[i] = smaller(from.mm[i], to.mm[i]);
        high->mm[i] = larger(from.mm[i], to.mm[i]);
        float plus = i == X ? 0 : HALF_TURN / 2;
        if (swept(plus)) high->mm[i] = centre[i] + radius;
        if (swept(plus + HALF_TURN)) low->mm[i] = centre[i] - radius;
    }
}
#endif

static struct place place_at(uint32_t which)
{
    if (which == pieces) return to;
    float share = (float)which / (float)pieces;
    struct place at;
    for (int i = 0; i < HOMED_AXES; i++) at.mm[i] = from.mm[i] + share * (to.mm[i] - from.mm[i]);
    at.filament = from.filament + (to.filament - from.filament) * (int64_t)which / (int64_t)pieces;
#if ARCS_ON
    if (round) {
        float angle = from_angle + share * sweep;
        at.mm[X] = centre[X] + radius * cosine(angle);
        at.mm[Y] = centre[Y] + radius * sine(angle);
    }
#endif
    return at;
}

bool path_queued(void)
{
    while (piece < pieces) {
        struct place at = place_at(piece + 1);
        if (!motion_move(&at, speed)) return false;
        piece++;
    }
    return true;
}

void path_forget(void) { piece = pieces = 0; }
