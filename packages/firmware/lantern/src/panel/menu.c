/* menu.c: lists of rows. A row says lines of the protocol, as if a host had sent them, opens another list, or acts. */
#include "panel/menu.h"
#include "bed/shape.h"
#include "bed/tram.h"
#include "core/number.h"
#include "core/settings.h"
#include "job/card_print.h"
#include "job/job.h"
#include "option_motion.h"
#include "option_presets.h"
#include "option_store.h"
#include "panel/panel_words.h"
#include "panel/slider.h"
#include "pins_heat.h"
#include "proto/commands.h"

#if DISPLAY_KIND != DISPLAY_KIND_NONE
#define EVERYTHING (DISPLAY_MENUS == DISPLAY_MENUS_FULL)

struct list;
struct row { const char *word, *say; const struct list *opens; void (*act)(void); };
/* Without rows it is the list of the card's files. */
struct list { const struct row *rows; int count; };
#define LIST(name) static const struct list name##_LIST = {name, sizeof name / sizeof *name}

#if EVERYTHING && NUDGE_ON
#define NUDGE_MM 0.02f
static void nudge(float mm)
{
    float to = setting[SET_NUDGE_START] + mm;
    if (setting_allows(SET_NUDGE_START, to)) setting_put(SET_NUDGE_START, to);
}

static void lower(void) { nudge(-NUDGE_MM); }
static void higher(void) { nudge(NUDGE_MM); }
#endif

static const struct row HEAT[] = {
    {WORD_WARM_ONE, "preheat n=1", NULL, NULL},
    {WORD_WARM_TWO, "preheat n=2", NULL, NULL},
    {WORD_COOL, "cool", NULL, NULL},
};
LIST(HEAT);
static const struct row MOVE[] = {
    {WORD_HOME, "G28", NULL, NULL},
    {WORD_UP, "move by z=10 f=600", NULL, NULL},
    {WORD_RELEASE, "M84", NULL, NULL},
};
LIST(MOVE);
#if HAS_SLIDER
/* Has a page of its own. */
static const struct list SLIDER_LIST = {NULL, 0};
#endif
#if EVERYTHING && (TRAM_ON || HAS_TOUCHED_MAP || NUDGE_ON)
#define HAS_PLATE 1
static const struct row PLATE[] = {
#if TRAM_ON
    {WORD_CORNER, "tram", NULL, NULL},
#endif
#if HAS_TOUCHED_MAP
    {WORD_MAP, "map take", NULL, NULL},
#endif
#if NUDGE_ON
    {WORD_LOWER, NULL, NULL, lower},
    {WORD_HIGHER, NULL, NULL, higher},
#endif
#if HAS_SLIDER
    {WORD_NUDGE, NULL, &SLIDER_LIST, NULL},
#endif
};
LIST(PLATE);
#else
#define HAS_PLATE 0
#endif
#if CARD_PRINT
static const struct list FILES_LIST = {NULL, 0};
#endif

static const struct row MAIN[] = {
#if CARD_PRINT
    {WORD_PRINT, NULL, &FILES_LIST, NULL},
#endif
#if HAS_PAUSE
    {WORD_PAUSE, "pause", NULL, NULL},
    {WORD_RESUME, "resume", NULL, NULL},
#endif
    {WORD_HEAT, NULL, &HEAT_LIST, NULL},
    {WORD_MOVE, NULL, &MOVE_LIST, NULL},
#if HAS_PLATE
    {WORD_PLATE, NULL, &PLATE_LIST, NULL},
#endif
#if EVERYTHING && STORE_KEPT
    {WORD_KEEP, "M500", NULL, NULL},
#endif
};
LIST(MAIN);

static const struct list *open_list;
static int chosen, files;

bool menu_open(void) { return open_list != NULL; }
void menu_leave(void) { open_list = NULL; }

static void enter(const struct list *list)
{
    open_list = list;
    chosen = 0;
#if CARD_PRINT
    files = 0;
    struct fat_file file;
    uint32_t at;
    if (list == &FILES_LIST && !card_printing(&at) && fat_mount())
        while (files < 20 && fat_file(files, &file)) files++;
#endif
}

void menu_enter(void) { enter(&MAIN_LIST); }

/* The first row goes back. */
static int rows(void) { return 1 + (open_list->rows ? open_list->count : files); }

void menu_turn(int steps)
{
    chosen += steps;
    if (chosen < 0) chosen = 0;
    if (chosen >= rows()) chosen = rows() - 1;
}

static void print_file(int nth)
{
    char line[] = "card print n=00";
    int last = (int)sizeof line - 2;
    line[last] = (char)('0' + nth % 10);
    line[last - 1] = (char)('0' + nth / 10 % 10);
    commands_from_panel(line);
    menu_leave();
}

void menu_press(void)
{
    if (chosen == 0) { if (open_list == &MAIN_LIST) menu_leave(); else enter(&MAIN_LIST); return; }
    if (!open_list->rows) { print_file(chosen); return; }
    const struct row *row = &open_list->rows[chosen - 1];
    if (row->opens) enter(row->opens);
    else if (row->act) row->act();
    else commands_from_panel(row->say);
}

static int first_row(void) { return chosen < SCREEN_ROWS ? 0 : chosen - SCREEN_ROWS + 1; }

#if HAS_TOUCH
/* The last row of the screen turns to the rows behind it, where there are more; the first one back. */
void menu_tap(int row, int column)
{
#if HAS_SLIDER
    if (open_list == &SLIDER_LIST) {
        if (row == 0) enter(&MAIN_LIST);
        else slider_touch(column);
        return;
    }
#endif
    (void)column;
    int first = first_row(), which = first + row;
    if (which >= rows()) return;
    if (row == 0 && first) { menu_turn(first - chosen); return; }
    if (row == SCREEN_ROWS - 1 && which < rows() - 1) { menu_turn(which + SCREEN_ROWS - 1 - chosen); return; }
    chosen = which;
    menu_press();
}
#endif

static void draw_row(int row, int which)
{
    int column = screen_text(row, 0, which == chosen ? ">" : " ");
    if (which == chosen) screen_mark(row);
    if (which == 0) { screen_text(row, column, WORD_BACK); return; }
    if (open_list->rows) { screen_text(row, column, open_list->rows[which - 1].word); return; }
#if CARD_PRINT
    struct fat_file file;
    if (fat_file(which - 1, &file)) screen_text(row, column, file.name);
#endif
}

void menu_draw(void)
{
#if HAS_SLIDER
    if (open_list == &SLIDER_LIST) { slider_draw(); return; }
#endif
    int first = first_row();
    for (int row = 0; row < SCREEN_ROWS && first + row < rows(); row++) draw_row(row, first + row);
    if (!open_list->rows && files == 0) screen_text(1, 1, WORD_NO_CARD);
}
#endif
