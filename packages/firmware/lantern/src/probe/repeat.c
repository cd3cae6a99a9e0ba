/* repeat.c: one spot touched many times: how far the probe scatters. */
#include "probe/repeat.h"
#include "core/number.h"
#include "motion/motion.h"
#include "option_homing.h"
#include "probe/touch.h"
#include "proto/print.h"

#if HAS_REPEAT
enum { FEWEST = 2, USUAL = 10, MOST = 50 };
static struct spot spot;
static int wanted, made;
/* Sums are of what lies between a touch and the first one: squares of whole heights leave no digits for their scatter. */
static float first, sum, squares, lowest, highest;

static void tell(void)
{
    float off = sum / (float)made, variance = squares / (float)made - off * off;
    print("repeat");
    print_name("touches");
    print_int(made);
    print_name("mean");
    print_float(first + off, 4);
    print_name("deviation");
    print_float(variance > 0 ? __builtin_sqrtf(variance) : 0, 4);
    print_name("span");
    print_float(highest - lowest, 4);
    print_end();
}

static void tell_touch(float height)
{
    print("repeat");
    print_name("touch");
    print_int(made);
    print_name("of");
    print_int(wanted);
    print_name("height");
    print_float(height, 4);
    print_end();
}

static bool over(void)
{
    switch (touch_go_on()) {
    case TOUCHING: return false;
    case NOT_TOUCHED: return failed(MSG_PROBE_MET_AT_ONCE);
    case TOUCHED: break;
    }
    float height = touch_height();
    if (!made) first = height;
    float off = height - first;
    sum += off;
    squares += off * off;
    lowest = made ? smaller(lowest, height) : height;
    highest = made ? larger(highest, height) : height;
    made++;
    tell_touch(height);
    if (made < wanted) {
        touch_begin_times(spot, 1);
        return false;
    }
    touch_end();
    tell();
    return true;
}

static enum outcome repeat(const struct words *w)
{
    float count = word(w, 'N', (float)USUAL);
    if (!(count >= (float)FEWEST && count <= (float)MOST)) return fail(MSG_TOUCHES_RANGE);
    spot = (struct spot){word(w, 'X', HOME_SPOT_X), word(w, 'Y', HOME_SPOT_Y)};
    const char *refused = touch_refuse(spot);
    if (refused) return fail(refused);
    wanted = nearest(count);
    made = 0;
    sum = squares = 0;
    touch_begin_times(spot, 1);
    return going_on(over);
}

const struct command REPEAT_COMMANDS[] = {
    VERB("repeat", AT_REST, "NXY", repeat),
    NO_COMMAND,
};
#endif
