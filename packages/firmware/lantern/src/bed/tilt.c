/* tilt.c: h = a x + b y + c through three points, two in front and one behind. */
#include "bed/tilt.h"
#include "bed/by_hand.h"
#include "motion/motion.h"
#include "option_map.h"
#include "option_plate.h"
#include "option_sense.h"
#include "probe/touch.h"
#include "proto/print.h"

#if HAS_TILT
enum { POINTS = 3 };
/* From the edges of what the map may cover: there the probe reaches. */
static const struct spot SPOT[POINTS] = {
    {MAP_X_MIN, MAP_Y_MIN}, {MAP_X_MAX, MAP_Y_MIN}, {(MAP_X_MIN + MAP_X_MAX) / 2, MAP_Y_MAX}};
static float height[POINTS], along_x, along_y, at_zero;
static bool known;

float tilt_at(float x, float y) { return known ? at_zero + along_x * x + along_y * y : 0; }

void tilt_forget(void)
{
    known = false;
    motion_settle();
}

static void put(int point, float mm)
{
    height[point] = mm;
    print("tilt");
    print_name("point");
    print_int(point + 1);
    print_name("height");
    print_float(mm, 3);
    print_end();
}

static void taken(void)
{
    along_x = (height[1] - height[0]) / (SPOT[1].x - SPOT[0].x);
    float front = height[0] + along_x * (SPOT[2].x - SPOT[0].x);
    along_y = (height[2] - front) / (SPOT[2].y - SPOT[0].y);
    at_zero = height[0] - along_x * SPOT[0].x - along_y * SPOT[0].y;
    known = true;
    motion_settle();
}

int tilt_lines(void) { return 1; }

void tilt_tell(int line)
{
    (void)line;
    print("tilt");
    print_name("known");
    print(known ? "yes" : "no");
    print_name("x");
    print_float(along_x * (BED_X_MAX - BED_X_MIN), 3);
    print_name("y");
    print_float(along_y * (BED_Y_MAX - BED_Y_MIN), 3);
    print_end();
}

#if TILT_BY == TILT_BY_BY_HAND
static struct spot spot_of(int point) { return SPOT[point]; }
static const struct hand THREE_HEIGHTS = {POINTS, spot_of, put, taken};

static enum outcome take(const struct words *w)
{
    const char *refused = by_hand_refuse(&THREE_HEIGHTS, w);
    if (refused) return fail(refused);
    tilt_forget();
    return by_hand_begin(&THREE_HEIGHTS, w);
}
#else
_Static_assert(PROBE_KIND != PROBE_KIND_NONE, "[tilt.by] three points are touched with a probe, and there is none");
static int point;

static bool touched(void)
{
    switch (touch_go_on()) {
    case TOUCHING: return false;
    case NOT_TOUCHED: return failed(MSG_PROBE_MET_AT_ONCE);
    case TOUCHED: break;
    }
    put(point, touch_height());
    if (++point < POINTS) {
        touch_begin(SPOT[point]);
        return false;
    }
    touch_end();
    taken();
    return true;
}

static enum outcome take(const struct words *w)
{
    (void)w;
    for (int i = 0; i < POINTS; i++) {
        const char *refused = touch_refuse(SPOT[i]);
        if (refused) return fail(refused);
    }
    tilt_forget();
    point = 0;
    touch_begin(SPOT[0]);
    return going_on(touched);
}
#endif

static enum outcome drop(const struct words *w)
{
    (void)w;
    tilt_forget();
    return DONE;
}

const struct command TILT_COMMANDS[] = {
    VERB("tilt take", AT_REST, TILT_BY == TILT_BY_BY_HAND ? "S" : NULL, take),
    VERB("tilt drop", AT_REST, NULL, drop),
    NO_COMMAND,
};
#endif
