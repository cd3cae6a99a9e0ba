/* setting_commands.c: setting, telling, storing, loading, going back. */
#include "proto/setting_commands.h"
#include "core/store.h"
#include "messages.h"
#include "option_store.h"
#include "proto/print.h"

const struct setting_line *setting_line_for(const struct words *words)
{
    for (int i = 0; i < SETTINGS_LINE_COUNT; i++) {
        const struct setting_line *line = &SETTING_LINES[i];
        if (words_ask(words, line->verb, line->letter, line->number)) return line;
    }
    return NULL;
}

static void print_range(const struct setting_row *row)
{
    print_error();
    print_char(row->letter);
    print(" must be ");
    print_float(row->least, row->decimals);
    print(" to ");
    print_float(row->most, row->decimals);
    print(", nothing changed");
    print_end();
}

enum outcome setting_change(const struct setting_line *line, const struct words *words)
{
    uint32_t known = 0;
    for (int i = line->first; i < line->first + line->count; i++) {
        const struct setting_row *row = &SETTING_ROWS[i];
        known |= 1u << (row->letter - 'A');
        if (!has(words, row->letter)) continue;
        if (!(words->valued >> (row->letter - 'A') & 1)) return fail(MSG_NUMBER_MISSING_KEPT);
        if (!setting_allows(i, word(words, row->letter, 0))) { print_range(row); return FAILED; }
    }
    if (words->given & ~known) return fail(MSG_WORD_STRAY_KEPT);
    for (int i = line->first; i < line->first + line->count; i++) setting_put(i, word(words, SETTING_ROWS[i].letter, setting[i]));
    return DONE;
}

static enum outcome save(const struct words *w)
{
    (void)w;
    return store_begin() ? going_on(store_saved) : fail(MSG_STORES_NOTHING);
}

static enum outcome load(const struct words *w)
{
    (void)w;
    store_report("store", store_load());
    return DONE;
}

static enum outcome reset(const struct words *w)
{
    (void)w;
    settings_reset();
    return DONE;
}

#if STORE_REPORT
static int told;

static bool report_on(void)
{
    const struct setting_line *line = &SETTING_LINES[told];
    print("setting ");
    if (line->verb) print(line->verb);
    else { print_char(line->letter); print_int(line->number); }
    for (int i = line->first; i < line->first + line->count; i++) {
        print_char(' ');
        print_char((char)(SETTING_ROWS[i].letter | (line->verb ? 0x20 : 0)));
        if (line->verb) print_char('=');
        print_float(setting[i], SETTING_ROWS[i].decimals);
    }
    print_end();
    return ++told == SETTINGS_LINE_COUNT;
}

static enum outcome report(const struct words *w)
{
    (void)w;
    told = 0;
    return telling(report_on);
}
#else
static enum outcome report(const struct words *w)
{
    (void)w;
    return fail(MSG_NO_REPORT);
}
#endif

const struct command SETTING_COMMANDS[] = {
    CODE('M', 500, AT_REST, NULL, NULL, save),
    CODE('M', 501, AT_REST, NULL, NULL, load),
    CODE('M', 502, AT_REST, NULL, NULL, reset),
    CODE('M', 503, ASLEEP_TOO, NULL, NULL, report),
    NO_COMMAND,
};
