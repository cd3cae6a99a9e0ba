/* display.c: every eight milliseconds, which is a beat, the knob is asked and a few letters go out; four times a second the page is
 * drawn anew. */
#include "panel/display.h"
#include "core/stop.h"
#include "heat/heat.h"
#include "job/card_print.h"
#include "job/job.h"
#include "motion/homing.h"
#include "motion/motion.h"
#include "option_identity.h"
#include "panel/menu.h"
#include "panel/panel_words.h"
#include "panel/touch.h"
#include "proto/commands.h"

#if DISPLAY_KIND != DISPLAY_KIND_NONE
/* In beats. A beat is a power of two of ticks: an 8-bit chip divides slowly. */
enum { BEAT_TICKS = 8, DRAWN_EVERY = 31, LETTERS_A_BEAT = 24, PICTURE_BEATS = 375, LEFT_ALONE = 2500 };
static uint8_t tick;
static uint16_t ticks, alone;
#if DISPLAY_PICTURE
static uint16_t picture_left;
#endif

void display_start(void)
{
    screen_clear();
#if DISPLAY_PICTURE
    picture_left = PICTURE_BEATS;
#endif
    screen_forget();
}

static const char *doing(void)
{
    if (stopped()) return WORD_STOPPED;
    if (job_paused()) return WORD_PAUSED;
    if (homing_under_way()) return WORD_HOMING;
    if (motion_busy()) return WORD_MOVING;
    return commands_busy() ? WORD_WAITING : WORD_IDLE;
}

static int body(int row, int column, const char *lead, int heater)
{
    column = screen_text(row, column, lead);
    column = screen_number(row, column, heat_now(heater), 0);
    column = screen_text(row, column, "/");
    return screen_text(row, screen_number(row, column, heat_target(heater), 0), "C ");
}

static void draw_status(void)
{
    static const char *const NAME[HOMED_AXES] = {"X", "Y", "Z"};
    struct place at = motion_position();
    int column = 0;
    screen_text(0, 0, MACHINE_NAME);
    column = body(1, 0, "H", HOTEND);
    if (heater_there(BED)) body(1, column, "B", BED);
    column = 0;
    for (int i = 0; i < HOMED_AXES; i++) {
        column = screen_text(2, column, NAME[i]);
        column = homed(i) ? screen_number(2, column, at.mm[i], 1) : screen_text(2, column, "?");
        column = screen_text(2, column, " ");
    }
    column = screen_text(3, 0, doing());
#if CARD_PRINT
    uint32_t done;
    const struct fat_file *file = card_printing(&done);
    if (!file || !file->bytes) return;
    column = screen_number(3, column + 1, 100.0f * (float)done / (float)file->bytes, 0);
    screen_text(3, column, "%");
#endif
}

static void work_knob(void)
{
    int turned = hw_knob_turned();
    bool pressed = hw_knob_pressed();
    if (!turned && !pressed) {
        if (menu_open() && ++alone == LEFT_ALONE) menu_leave();
        return;
    }
    alone = 0;
    ticks = DRAWN_EVERY;
    if (!menu_open()) { if (pressed) menu_enter(); return; }
    if (turned) menu_turn(turned);
    if (pressed) menu_press();
}

#if HAS_TOUCH
static void work_touch(void)
{
    struct tap tap;
    if (!touch_tapped(&tap)) return;
    alone = 0;
    ticks = DRAWN_EVERY;
    if (menu_open()) menu_tap(tap.row, tap.column);
    else menu_enter();
}
#endif

static void draw_page(void)
{
#if HAS_TOUCH
    if (!touch_known()) { touch_draw_mark(); return; }
#endif
    if (menu_open()) menu_draw();
    else draw_status();
}

void display_tick(void)
{
    if (++tick & (BEAT_TICKS - 1)) return;
#if DISPLAY_PICTURE
    if (picture_left) {
        int row = PICTURE_BEATS - picture_left--;
        if (row < SCREEN_ROWS) screen_picture(row);
        return;
    }
#endif
    work_knob();
#if HAS_TOUCH
    work_touch();
#endif
    if (++ticks >= DRAWN_EVERY) {
        ticks = 0;
        screen_clear();
        draw_page();
        screen_drawn();
    }
    screen_send(LETTERS_A_BEAT);
}
#endif
