/* map.c: heights in thousandths of a millimetre, row by row from the front left. */
#include "bed/map.h"
#include "bed/by_hand.h"
#include "core/number.h"
#include "core/settings.h"
#include "core/store.h"
#include "motion/homing.h"
#include "motion/limits.h"
#include "motion/motion.h"
#include "option_map.h"
#include "option_store.h"
#include "probe/touch.h"
#include "proto/print.h"

#if HAS_MAP
enum { COLUMNS = MAP_COLUMNS, ROWS = MAP_ROWS, POINTS = COLUMNS * ROWS, MARK = 0x6d };
#define STEP_X ((MAP_X_MAX - MAP_X_MIN) / (float)(COLUMNS - 1))
#define STEP_Y ((MAP_Y_MAX - MAP_Y_MIN) / (float)(ROWS - 1))
#define PARK_LIFT_MM 10.0f
#define TRAVEL_MM_S 80.0f

_Static_assert(MAP_X_MIN < MAP_X_MAX, "[map.x.max] the map ends before it begins, X");
_Static_assert(MAP_Y_MIN < MAP_Y_MAX, "[map.y.max] the map ends before it begins, Y");

static int16_t height[POINTS];
static bool complete, in_use;

#if STORE_KEPT
/* As it lies in the store, behind the settings. */
struct kept { uint16_t mark, points, sum; int16_t height[POINTS]; };

static uint16_t sum_of(const int16_t *values)
{
    uint32_t sum = COLUMNS * 31 + ROWS;
    const float edges[] = {MAP_X_MIN, MAP_X_MAX, MAP_Y_MIN, MAP_Y_MAX};
    for (int i = 0; i < 4; i++) sum = sum * 31 + (uint32_t)nearest(edges[i] * 10);
    for (int i = 0; i < POINTS; i++) sum = sum * 31 + (uint16_t)values[i];
    return (uint16_t)(sum ^ sum >> 16);
}

static struct kept keeping;
static uint32_t kept_bytes = sizeof keeping;

static void keep(void)
{
    keeping = (struct kept){.mark = MARK, .points = POINTS, .sum = sum_of(height)};
    for (int i = 0; i < POINTS; i++) keeping.height[i] = height[i];
    kept_bytes = hw_store_size() >= STORE_MAP + sizeof keeping ? 0 : sizeof keeping;
}

/* Writes on; what is half written has a wrong sum. */
void map_tick(void)
{
    while (kept_bytes < sizeof keeping && !hw_store_busy()) {
        hw_store_write(STORE_MAP + kept_bytes, ((const uint8_t *)&keeping)[kept_bytes]);
        kept_bytes++;
    }
}

void map_start(void)
{
    if (hw_store_size() < STORE_MAP + sizeof keeping) return;
    for (uint32_t i = 0; i < sizeof keeping; i++) ((uint8_t *)&keeping)[i] = (uint8_t)hw_store_read(STORE_MAP + i);
    if (keeping.mark != MARK || keeping.points != POINTS || keeping.sum != sum_of(keeping.height)) return;
    for (int i = 0; i < POINTS; i++) height[i] = keeping.height[i];
    complete = true;
}
#else
static void keep(void) {}
void map_tick(void) {}
void map_start(void) {}
#endif

bool map_in_use(void) { return in_use; }

static float cell(float at, float from, float step, int count, int *index)
{
    float cells = (at - from) / step;
    if (!(cells > 0)) cells = 0;
    if (cells > (float)(count - 1)) cells = (float)(count - 1);
    *index = (int)cells;
    if (*index > count - 2) *index = count - 2;
    return cells - (float)*index;
}

float map_at(float x, float y)
{
    if (!in_use) return 0;
    int column, row;
    float right = cell(x, MAP_X_MIN, STEP_X, COLUMNS, &column), back = cell(y, MAP_Y_MIN, STEP_Y, ROWS, &row);
    const int16_t *front_left = &height[row * COLUMNS + column], *back_left = front_left + COLUMNS;
    float front = (float)front_left[0] + right * (float)(front_left[1] - front_left[0]);
    float behind = (float)back_left[0] + right * (float)(back_left[1] - back_left[0]);
    return (front + back * (behind - front)) / 1000;
}

/* What is in use changes: the place told changes with it, the motors stand. */
static void use(bool on)
{
    if (in_use == on) return;
    in_use = on;
    motion_settle();
}

/* Every other row from right to left, so that no way is long. */
static int index_of(int point)
{
    int row = point / COLUMNS, column = point % COLUMNS;
    return row * COLUMNS + (row % 2 ? COLUMNS - 1 - column : column);
}

static struct spot spot_of(int index)
{
    return (struct spot){MAP_X_MIN + (float)(index % COLUMNS) * STEP_X, MAP_Y_MIN + (float)(index / COLUMNS) * STEP_Y};
}

static void put(int point, float mm)
{
    int index = index_of(point);
    height[index] = (int16_t)nearest(mm * 1000);
    struct spot spot = spot_of(index);
    print("map");
    print_name("point");
    print_int(point + 1);
    print_name("of");
    print_int(POINTS);
    print_name("x");
    print_float(spot.x, 1);
    print_name("y");
    print_float(spot.y, 1);
    print_name("height");
    print_float(mm, 3);
    print_end();
}

static void taken(void)
{
    complete = true;
    keep();
    use(true);
}

static int point;

void map_stop(void) { point = POINTS; }

#if HAS_TOUCHED_MAP
static bool parking;

static bool touch_next(void)
{
    touch_begin(spot_of(index_of(point)));
    return false;
}

const char *map_take_begin(void)
{
    for (int i = 0; i < POINTS; i++) {
        const char *refused = touch_refuse(spot_of(i));
        if (refused) return refused;
    }
    use(false);
    complete = false;
    parking = false;
    point = 0;
    touch_next();
    return NULL;
}

static bool park(void)
{
    parking = true;
    struct place to = motion_target();
    to.mm[Z] = smaller(to.mm[Z] + PARK_LIFT_MM, limit_end(Z, 1));
    motion_move(&to, TRAVEL_MM_S);
    to.mm[X] = limit_end(X, 0);
    to.mm[Y] = limit_end(Y, 1);
    motion_move(&to, TRAVEL_MM_S);
    return false;
}

bool map_taken(void)
{
    if (parking) return !motion_busy();
    switch (touch_go_on()) {
    case TOUCHING: return false;
    case NOT_TOUCHED: return failed(MSG_PROBE_MET_AT_ONCE);
    case TOUCHED: break;
    }
    put(point, touch_height());
    if (++point < POINTS) return touch_next();
    touch_end();
    taken();
    return MAP_PARK ? park() : true;
}

static enum outcome take(const struct words *w)
{
    (void)w;
    const char *refused = map_take_begin();
    return refused ? fail(refused) : going_on(map_taken);
}
#else
const char *map_take_begin(void) { return MSG_NO_PROBE; }
bool map_taken(void) { return true; }
#endif

#if MAP_SHIM
static struct spot hand_spot(int which) { return spot_of(index_of(which)); }
static const struct hand BY_SHIM = {POINTS, hand_spot, put, taken};

static enum outcome shim(const struct words *w)
{
    const char *refused = by_hand_refuse(&BY_SHIM, w);
    if (refused) return fail(refused);
    use(false);
    complete = false;
    return by_hand_begin(&BY_SHIM, w);
}
#endif

void map_use_again(void)
{
    if (complete) use(true);
}

bool map_after_home(void)
{
    use(false);
#if MAP_AFTER_HOME == MAP_AFTER_HOME_RESTORED
    map_use_again();
#elif MAP_AFTER_HOME == MAP_AFTER_HOME_PROBED_AFRESH
    return true;
#endif
    return false;
}

int map_lines(void) { return 1; }

void map_tell(int line)
{
    (void)line;
    print("map");
    print_name("state");
    print(in_use ? "in-use" : complete ? "kept" : "none");
    print_name("columns");
    print_int(COLUMNS);
    print_name("rows");
    print_int(ROWS);
    print_end();
}

static enum outcome take_up(const struct words *w)
{
    (void)w;
    if (!complete) return fail(MSG_NO_MAP);
    if (!homed(Z)) return fail(MSG_HOME_FIRST);
    use(true);
    return DONE;
}

static enum outcome drop(const struct words *w)
{
    (void)w;
    use(false);
    return DONE;
}

static int row_told;

static bool show_on(void)
{
    if (row_told == ROWS) return true;
    print("map");
    print_name("row");
    print_int(row_told + 1);
    print_name("heights");
    for (int i = 0; i < COLUMNS; i++) {
        if (i) print_char(',');
        print_float((float)height[row_told * COLUMNS + i] / 1000, 3);
    }
    print_end();
    row_told++;
    return false;
}

static enum outcome show(const struct words *w)
{
    (void)w;
    if (!complete) return fail(MSG_NO_MAP);
    row_told = 0;
    return telling(show_on);
}

const struct command MAP_COMMANDS[] = {
#if HAS_TOUCHED_MAP
    VERB("map take", AT_REST, NULL, take),
#endif
#if MAP_SHIM
    VERB("map shim", AT_REST, "S", shim),
#endif
    VERB("map use", AT_REST, NULL, take_up),
    VERB("map drop", AT_REST, NULL, drop),
    VERB("map show", ASLEEP_TOO, NULL, show),
    NO_COMMAND,
};
#endif
