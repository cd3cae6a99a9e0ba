/* resume.c: what is noted, and the way back: heat, lift, home X and Y, down to the noted height, and on. Z is believed to stand
 * where it stood: nothing can be found below a half-made print. */
#include "job/resume.h"
#include "bed/map.h"
#include "card/fat.h"
#include "core/number.h"
#include "core/store.h"
#include "fans/fans.h"
#include "heat/heat.h"
#include "job/card_print.h"
#include "job/job.h"
#include "motion/homing.h"
#include "motion/limits.h"
#include "motion/motion.h"
#include "motion/moves.h"
#include "motion/origins.h"
#include "motion/planner.h"
#include "motion/tools.h"
#include "proto/print.h"

#if RESUME_ON && CARD_PRINT
enum { MARK = 0x72, EVERY_TICKS = 10000, BLOCK = 512 };
#define LAYER_MM 0.04f
#define LIFT_MM 5.0f
#define LIFT_MM_S 5.0f
#define TRAVEL_MM_S 60.0f

struct note {
    uint32_t mark, sum;
    struct fat_file file;
    uint32_t at;
    struct place place;
    struct modes modes;
    float targets[HEATERS], fan;
    uint8_t tool;
    bool mapped;
#if OFFSETS_ON
    struct origins origins;
#endif
};
_Static_assert(sizeof(struct note) <= STORE_NOTE, "the slots overlap, of a print's note and of the map");
static union { struct note note; uint8_t bytes[BLOCK]; } kept;
static uint16_t ticks;
static float noted_z;
/* Where it is to be kept takes nothing: with the power this print is lost. */
static bool untaken;

static uint32_t sum_of(const struct note *note)
{
    uint32_t sum = 2166136261u; /* FNV-1a */
    const uint8_t *bytes = (const uint8_t *)note;
    for (uint32_t i = 8; i < sizeof *note; i++) sum = (sum ^ bytes[i]) * 16777619u;
    return sum;
}

#if CARD_LOCKED
static uint32_t written = sizeof(struct note);

static bool write_note(void)
{
    bool room = hw_store_size() >= STORE_BEHIND + sizeof kept.note;
    written = room ? 0 : sizeof kept.note;
    return room;
}

static void write_on(void)
{
    while (written < sizeof kept.note && !hw_store_busy()) {
        hw_store_write(STORE_BEHIND + written, kept.bytes[written]);
        written++;
    }
}

static void read_note(void)
{
    for (uint32_t i = 0; i < sizeof kept.note; i++) kept.bytes[i] = (uint8_t)hw_store_read(STORE_BEHIND + i);
}
#else
static const char NAME[11] = {'R', 'E', 'S', 'U', 'M', 'E', ' ', ' ', 'N', 'O', 'T'};

/* Looked for each time: the card may be another than at the last print. */
static bool write_note(void)
{
    uint32_t block = fat_block_of(NAME, true);
    return block && hw_card_write(block, kept.bytes);
}

static void write_on(void) {}

static void read_note(void)
{
    uint32_t block = fat_mount() ? fat_block_of(NAME, false) : 0;
    if (!block || !hw_card_read(block, kept.bytes)) kept.note.mark = 0;
}
#endif

static bool there(void) { return kept.note.mark == MARK && kept.note.sum == sum_of(&kept.note); }

void resume_start(void) { read_note(); }

/* A note is true once every move before its line has been made: it waits until then. */
static struct note candidate;
static uint32_t after_blocks;
static bool waiting;

static void propose(const struct fat_file *file, uint32_t at)
{
    candidate = (struct note){.mark = MARK, .file = *file, .at = at, .place = motion_target(), .modes = moves_modes(), .fan = fan_part(), .tool = (uint8_t)tool_in_use(), .mapped = map_in_use()};
#if OFFSETS_ON
    candidate.origins = origins_now();
#endif
    for (int i = 0; i < HEATERS; i++) candidate.targets[i] = heat_target(i);
    candidate.sum = sum_of(&candidate);
    after_blocks = planner_added();
    waiting = true;
}

static void keep(void)
{
    waiting = false;
    kept.note = candidate;
    noted_z = candidate.place.mm[Z];
    ticks = 0;
    untaken = !write_note();
}

void resume_forget(void)
{
    waiting = false;
    kept.note.mark = 0;
    untaken = false;
    (void)write_note();
}

void resume_tick(void)
{
    write_on();
    uint32_t at;
    const struct fat_file *file = card_printing(&at);
    if (!file || job_paused()) { waiting = false; return; }
    if (ticks < EVERY_TICKS) ticks++;
    if (waiting && (int32_t)(planner_ended() - after_blocks) >= 0) keep();
    if (waiting || commands_busy() || !homed(Z)) return;
    float way = magnitude(motion_target().mm[Z] - noted_z);
    if (ticks == EVERY_TICKS || (way >= LAYER_MM && motion_feeds())) propose(file, at);
}

int resume_lines(void) { return 1; }

static const char *state_word(void)
{
    uint32_t at;
    if (card_printing(&at) && untaken) return "untaken";
    if (!there()) return "none";
    return card_printing(&at) ? "noted" : "kept";
}

void resume_tell(int line)
{
    (void)line;
    print("resume");
    print_name("state");
    print(state_word());
    if (there()) {
        print_name("file");
        print(kept.note.file.name);
        print_name("z");
        print_float(kept.note.place.mm[Z], 2);
    }
    print_end();
}

enum stage { WARM, LIFTED, HOMED, ABOVE, DOWN };
static enum stage stage;

/* No further than Z goes. */
static float lift(void) { return smaller(LIFT_MM, limit_end(Z, 1) - kept.note.place.mm[Z]); }

static void go_home(void)
{
    homing_begin(1u << X | 1u << Y);
    stage = HOMED;
}

/* The motors stand where they did, raised as the plate asked at the noted place. */
static void go_above(void)
{
    const float *mm = kept.note.place.mm;
    if (kept.note.mapped) map_use_again();
    motion_declare(Z, mm[Z] + shape_lift(mm[X], mm[Y], mm[Z]) + lift());
    homing_believe(Z);
    struct place to = motion_target();
    to.mm[X] = kept.note.place.mm[X];
    to.mm[Y] = kept.note.place.mm[Y];
    motion_move(&to, TRAVEL_MM_S);
    stage = ABOVE;
}

static void go_down(void)
{
    struct place to = motion_target();
    to.mm[Z] = kept.note.place.mm[Z];
    motion_move(&to, LIFT_MM_S);
    stage = DOWN;
}

static bool go_on(void)
{
    if (!fat_holds(&kept.note.file)) return failed(MSG_OTHER_CARD);
    tool_use(kept.note.tool);
    motion_declare_filament(kept.note.place.filament);
    moves_take_modes(&kept.note.modes);
    fan_part_put(kept.note.fan);
#if OFFSETS_ON
    origins_put(&kept.note.origins);
#endif
    card_print_from(&kept.note.file, kept.note.at);
    return true;
}

static bool back(void)
{
    if (stage == HOMED ? !homing_done() : motion_busy()) return false;
    switch (stage) {
    case WARM:
        for (int i = 0; i < HEATERS; i++) {
            if (kept.note.targets[i] > 0 && heat_target(i) == 0) return failed(MSG_COOLED);
            if (!heat_reached(i)) return false;
        }
        {
            struct place to = motion_target();
            to.mm[Z] += lift();
            motion_move(&to, LIFT_MM_S);
        }
        stage = LIFTED;
        break;
    case LIFTED: go_home(); break;
    case HOMED: go_above(); break;
    case ABOVE: go_down(); break;
    case DOWN: return go_on();
    }
    return false;
}

enum outcome resume_begin(const struct words *w)
{
    (void)w;
    if (!fat_mount()) return fail(MSG_NO_CARD);
    read_note();
    if (!there()) return fail(MSG_NOTHING_KEPT);
    if (!fat_holds(&kept.note.file)) return fail(MSG_OTHER_CARD);
    for (int i = 0; i < HEATERS; i++) {
        const char *refused = heater_there(i) ? heat_set(i, kept.note.targets[i]) : NULL;
        if (refused) return fail(refused);
    }
    stage = WARM;
    return going_on(back);
}
#endif
