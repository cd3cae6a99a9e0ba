/* gantry.c: the plate is touched far left and far right; the second motor makes up the difference, until little is left. The
 * motors stand at the ends of X: what differs between two spots differs more between them. */
#include "motion/gantry.h"
#include "core/number.h"
#include "core/settings.h"
#include "core/stop.h"
#include "messages.h"
#include "motion/limits.h"
#include "motion/motion.h"
#include "option_homing.h"
#include "option_map.h"
#include "probe/touch.h"
#include "proto/print.h"

#if HAS_GANTRY
enum { LEFT, RIGHT, SPOTS, MOST_ROUNDS = 6 };
#define LEVEL_MM 0.02f
/* Far out lies beside the plate. */
#define INSET_MM 15.0f
#define LEVEL_MM_S 2.0f
static struct spot spot[SPOTS];
static float height[SPOTS];
static uint8_t side, rounds;
static bool correcting;

const char *gantry_begin(void)
{
    spot[LEFT] = touch_within((struct spot){MAP_X_MIN + INSET_MM, HOME_SPOT_Y});
    spot[RIGHT] = touch_within((struct spot){MAP_X_MAX - INSET_MM, HOME_SPOT_Y});
    const char *refused = touch_refuse(spot[LEFT]);
    if (refused) return refused;
    side = LEFT;
    rounds = 0;
    correcting = false;
    touch_begin(spot[LEFT]);
    return NULL;
}

/* Higher plate on the right: the right side hangs lower. */
static bool judge(void)
{
    float off = (height[RIGHT] - height[LEFT]) * (limit_end(X, 1) - limit_end(X, 0)) / (spot[RIGHT].x - spot[LEFT].x);
    print("gantry");
    print_name("off");
    print_float(off, 3);
    print_end();
    if (magnitude(off) <= LEVEL_MM) { touch_end(); return true; }
    if (++rounds == MOST_ROUNDS) { touch_end(); stop_now("Z ", MSG_GANTRY_LOST); return true; }
    motion_second_z(off, LEVEL_MM_S);
    correcting = true;
    return false;
}

bool gantry_level(void)
{
    if (correcting) {
        if (motion_busy()) return false;
        correcting = false;
        side = LEFT;
        touch_begin(spot[LEFT]);
        return false;
    }
    switch (touch_go_on()) {
    case TOUCHING: return false;
    case NOT_TOUCHED: stop_now("probe ", MSG_PROBE_MET_AT_ONCE); return true;
    case TOUCHED: break;
    }
    height[side] = touch_height();
    if (side == LEFT) {
        side = RIGHT;
        touch_begin(spot[RIGHT]);
        return false;
    }
    return judge();
}
#endif
