/* words.c: letters and numbers. Numbers are read as millionths in 64 bits, so that no length of digits overflows and an
 * extruder's place stays exact after any length of filament. */
#include "proto/words.h"
#include "messages.h"

enum { MILLION = 1000000, MOST_WHOLE = 9999999, DECIMALS_READ = 6 };

static const char *skip(const char *at)
{
    while (*at == ' ') at++;
    return at;
}

static bool digit(char letter) { return letter >= '0' && letter <= '9'; }
static bool small(char letter) { return letter >= 'a' && letter <= 'z'; }
static bool ends(char letter) { return letter == 0 || letter == ' '; }

/* Whole digits into `value`; NULL when there are none or they are more than `most`. */
static const char *digits(const char *at, uint32_t most, uint32_t *value)
{
    if (!digit(*at)) return NULL;
    uint32_t sum = 0;
    for (; digit(*at); at++) {
        uint32_t unit = (uint32_t)(*at - '0');
        if (sum > (most - unit) / 10) return NULL;
        sum = sum * 10 + unit;
    }
    *value = sum;
    return at;
}

/* A decimal number of any length below ten million; further decimals than six are rounded. NULL when it is none. */
static const char *number(const char *at, int64_t *millionths)
{
    bool negative = *at == '-';
    if (*at == '-' || *at == '+') at++;
    uint32_t integer = 0;
    bool any = digit(*at);
    if (any) at = digits(at, MOST_WHOLE, &integer);
    if (!at) return NULL;
    int64_t value = (int64_t)integer * MILLION;
    if (*at == '.') {
        at++;
        if (!digit(*at) && !any) return NULL;
        int32_t scale = MILLION;
        for (int i = 0; digit(*at); at++, i++) {
            scale /= 10;
            if (i < DECIMALS_READ) value += (int64_t)(*at - '0') * scale;
            if (i == DECIMALS_READ && *at >= '5') value++;
        }
    } else if (!any) return NULL;
    *millionths = negative ? -value : value;
    return at;
}

static bool twice(struct words *words, int which)
{
    bool before = words->given >> which & 1;
    words->given |= 1u << which;
    return before;
}

/* Words in small letters, up to the first name of one letter with its number. */
static const char *verb(const char *at, struct words *words)
{
    int length = 0;
    while (small(*at) && at[1] != '=') {
        if (length) words->verb[length++] = ' ';
        for (; small(*at); at++) {
            if (length >= VERB_LENGTH - 2) { words->verb[0] = 0; return NULL; }
            words->verb[length++] = *at;
        }
        words->verb[length] = 0;
        if (!ends(*at)) return NULL;
        at = skip(at);
    }
    return at;
}

static const char *worded(const char *at, struct words *words)
{
    at = verb(at, words);
    if (!at) return words->verb[0] ? MSG_UNREADABLE : MSG_UNKNOWN;
    for (; *at; at = skip(at)) {
        if (!small(*at) || at[1] != '=') return MSG_UNREADABLE;
        int which = *at - 'a';
        if (twice(words, which)) return MSG_WORD_TWICE;
        at = number(at + 2, &words->millionths[which]);
        if (!at) return MSG_NUMBER_UNREADABLE;
        words->valued |= 1u << which;
        if (!ends(*at)) return MSG_UNREADABLE;
    }
    return NULL;
}

static const char *coded(const char *at, struct words *words)
{
    uint32_t code;
    words->letter = *at++;
    at = digits(at, 9999, &code);
    if (!at) return MSG_NO_NUMBER;
    words->number = (uint16_t)code;
    for (at = skip(at); *at; at = skip(at)) {
        char letter = *at++;
        if (letter < 'A' || letter > 'Z') return MSG_UNREADABLE;
        int which = letter - 'A';
        if (twice(words, which)) return MSG_WORD_TWICE;
        if (!(digit(*at) || *at == '-' || *at == '+' || *at == '.')) continue; /* a letter alone: G28 X */
        at = number(at, &words->millionths[which]);
        if (!at) return MSG_NUMBER_UNREADABLE;
        words->valued |= 1u << which;
    }
    return NULL;
}

const char *words_read(const char *line, struct words *words)
{
    const char *at = skip(line);
    words->given = words->valued = 0;
    words->letter = 0;
    words->number = 0;
    words->verb[0] = 0;
    if (small(*at)) return worded(at, words);
    if (*at != 'G' && *at != 'M' && *at != 'T') return MSG_UNREADABLE;
    return coded(at, words);
}

bool words_ask(const struct words *words, const char *verb, char letter, uint16_t number)
{
    if (!verb) return words->letter == letter && words->number == number;
    const char *own = words->verb;
    while (*verb && *verb == *own) { verb++; own++; }
    return *verb == *own;
}

bool has(const struct words *words, char letter) { return words->given >> (letter - 'A') & 1; }
int64_t word_millionths(const struct words *words, char letter) { return words->millionths[letter - 'A']; }

float word(const struct words *words, char letter, float otherwise)
{
    int which = letter - 'A';
    return words->valued >> which & 1 ? (float)words->millionths[which] / (float)MILLION : otherwise;
}

bool frame_read(char *line, struct frame *frame)
{
    const char *start = skip(line);
    uint32_t sum;
    uint8_t all = 0;
    *frame = (struct frame){.inside = start};
    char *at = line;
    for (; *at && *at != ';'; at++) {
        if (*at != '*') { all ^= (uint8_t)*at; continue; }
        const char *behind = digits(at + 1, 255, &sum);
        if (!behind) return false;
        behind = skip(behind);
        if (*behind && *behind != ';') return false;
        frame->summed = true;
        frame->sum_holds = sum == all;
        break;
    }
    *at = 0;
    if (*start == 'N') {
        const char *behind = digits(start + 1, 2000000000, &frame->number);
        if (!behind) return false;
        frame->numbered = true;
        frame->inside = skip(behind);
    }
    return true;
}
