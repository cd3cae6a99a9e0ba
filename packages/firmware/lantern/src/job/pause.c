/* pause.c: aside and back. What belongs to the print waits meanwhile; heat stays on, the rest can be asked and told. */
#include "core/number.h"
#include "core/stop.h"
#include "heat/heat.h"
#include "job/card_print.h"
#include "job/job.h"
#include "motion/homing.h"
#include "motion/limits.h"
#include "motion/motion.h"
#include "motion/tools.h"
#include "option_extrude.h"
#include "panel/beeper.h"
#include "proto/print.h"

#if HAS_PAUSE
#define DRAW_MM 2.0f
#define DRAW_MM_S 25.0f
#define LIFT_MM_S 10.0f
#define TRAVEL_MM_S 80.0f
#define MILLION 1e6f
enum { CALL_HZ = 1400, CALL_MS = 400 };
/* GOING until the moves under way have ended; ASIDE and BACK while they are made; REST between. */
enum stage { PRINTING, GOING, ASIDE, PAUSED, SWAPPING, BACK };
static enum stage stage;
static struct place left_at;
static const char *reason;
static bool told = true, drawn, by_host;

bool job_paused(void) { return stage != PRINTING; }

static void say(const char *what)
{
    print("print");
    print_name("paused");
    print(what);
    if (reason && stage != BACK) {
        print_name("why");
        print_char('"');
        print(reason);
        print_char('"');
    }
    print_end();
}

static void feed(float mm, float mm_s)
{
    struct place to = motion_target();
    to.filament += (int64_t)(mm * MILLION);
    motion_move(&to, mm_s);
}

static bool melted(void) { return !heater_there(tool_hotend()) || heat_now(tool_hotend()) >= EXTRUDE_FROM; }

static void go_aside(void)
{
    left_at = motion_target();
    drawn = melted();
    if (drawn) feed(-DRAW_MM, DRAW_MM_S);
    struct place to = motion_target();
    if (homed(Z)) {
        to.mm[Z] = smaller(to.mm[Z] + PARK_LIFT, limit_end(Z, 1));
        motion_move(&to, LIFT_MM_S);
    }
    if (homed(X) && homed(Y)) {
        to.mm[X] = larger(limit_end(X, 0), smaller(limit_end(X, 1), PARK_X));
        to.mm[Y] = larger(limit_end(Y, 0), smaller(limit_end(Y, 1), PARK_Y));
        motion_move(&to, TRAVEL_MM_S);
    }
    stage = ASIDE;
}

static void go_back(void)
{
    struct place to = motion_target();
    to.mm[X] = left_at.mm[X];
    to.mm[Y] = left_at.mm[Y];
    motion_move(&to, TRAVEL_MM_S);
    to.mm[Z] = left_at.mm[Z];
    motion_move(&to, LIFT_MM_S);
    if (drawn) feed(DRAW_MM, DRAW_MM_S);
    stage = BACK;
}

void job_pause(const char *why)
{
    if (stage != PRINTING || stopped()) return;
    reason = why;
    by_host = false;
    stage = GOING;
}

void job_stop(void)
{
    stage = PRINTING;
    reason = NULL;
}

void job_end(void)
{
    if (stage == PRINTING) return;
    job_stop();
    told = false;
}

static void arrived(void)
{
    stage = PAUSED;
    beep(CALL_HZ, CALL_MS);
    told = false;
}

static void returned(void)
{
    stage = PRINTING;
    motion_declare_filament(left_at.filament);
    reason = NULL;
    told = false;
}

void job_tick(void)
{
    if ((stage == PAUSED || stage == PRINTING) && !told && print_room()) {
        told = true;
        say(stage == PAUSED ? "yes" : "no");
    }
    if (motion_busy()) return;
    switch (stage) {
    case GOING: if (!commands_busy()) go_aside(); break;
    case ASIDE: arrived(); break;
    case BACK: returned(); break;
    case PRINTING:
    case PAUSED:
    case SWAPPING: break;
    }
}

int job_lines(void) { return 1; }

void job_tell(int line)
{
    (void)line;
    static const char *const WORD[] = {"no", "soon", "soon", "yes", "yes", "ending"};
    say(WORD[stage]);
}

static enum outcome pause(const struct words *w)
{
    (void)w;
    if (stage != PRINTING) return fail(MSG_PAUSED_ALREADY);
    job_pause(MSG_BY_HOST);
    by_host = true;
    return DONE;
}

/* What was asked for and has not begun is taken back: it would pause later, and nobody would wait for it. */
static bool taken_back(void)
{
    if (stage != GOING || !by_host) return false;
    job_end();
    return true;
}

static enum outcome go_on(const struct words *w)
{
    (void)w;
    if (taken_back()) return DONE;
    if (stage != PAUSED) return fail(MSG_NOT_PAUSED);
    if (drawn && !melted()) return fail(MSG_TOO_COLD);
    go_back();
    return DONE;
}

#if CHANGE_ON
/* The old one is drawn out slowly enough to leave the cold end whole; the new one is fed until it is sure to come. */
#define OUT_MM_S 15.0f
#define IN_MM_S 3.0f
#define PRIME_MM 40.0f
static float still_out;

static bool swapped(void)
{
    if (motion_busy()) return false;
    if (stage != SWAPPING) return true;
    /* In moves of what one move may feed at most. */
    if (still_out > 0) {
        float part = smaller(still_out, 100);
        feed(-part, OUT_MM_S);
        still_out -= part;
        return false;
    }
    stage = PAUSED;
    return true;
}

static enum outcome swap(const struct words *w)
{
    (void)w;
    if (stage != PAUSED) return fail(MSG_NOT_PAUSED);
    if (!melted()) return fail(MSG_TOO_COLD);
    still_out = CHANGE_DRAW;
    stage = SWAPPING;
    return going_on(swapped);
}

static bool primed(void) { return !motion_busy(); }

static enum outcome prime(const struct words *w)
{
    float mm = word(w, 'E', PRIME_MM);
    if (stage != PAUSED) return fail(MSG_NOT_PAUSED);
    if (!melted()) return fail(MSG_TOO_COLD);
    if (!(mm > 0 && mm <= 200)) return fail(MSG_FILAMENT_LONG);
    feed(mm, IN_MM_S);
    return going_on(primed);
}
#endif

const struct command JOB_COMMANDS[] = {
    VERB("pause", AT_ONCE, NULL, pause),
    VERB("resume", AT_ONCE, NULL, go_on),
#if CHANGE_ON
    VERB("swap filament", 0, NULL, swap),
    VERB("prime", 0, "E", prime),
#endif
    NO_COMMAND,
};
#else
void job_pause(const char *why)
{
    print_refused(why);
#if CARD_PRINT
    card_print_stop();
#endif
}
#endif

bool job_from_card(void)
{
#if CARD_PRINT
    uint32_t at;
    return card_printing(&at) != NULL;
#else
    return false;
#endif
}

/* A print that is refused a line waits for you: going on without it would print in the air. */
void job_refused(void) { job_pause(MSG_LINE_REFUSED); }
