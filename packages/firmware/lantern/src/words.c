#include "words.h"

static const char *skip(const char *at)
{
    while (*at == ' ') at++;
    return at;
}

bool words_empty(const char *line)
{
    line = skip(line);
    return *line == 0 || *line == ';';
}

/* Reads a decimal number; NULL when there is none or it has more than 9 digits. */
static const char *number(const char *at, float *value)
{
    bool negative = *at == '-';
    if (*at == '-' || *at == '+') at++;
    int digits = 0;
    double whole = 0, scale = 1;
    for (; *at >= '0' && *at <= '9'; at++, digits++) whole = whole * 10 + (*at - '0');
    if (*at == '.')
        for (at++; *at >= '0' && *at <= '9'; at++, digits++) { whole = whole * 10 + (*at - '0'); scale *= 10; }
    if (digits == 0 || digits > 9) return NULL;
    *value = (float)((negative ? -whole : whole) / scale);
    return at;
}

static bool small(char letter) { return letter >= 'a' && letter <= 'z'; }

/* `offset x=-38 y=-9`: one word in small letters, then names of one letter with their numbers. */
static bool worded(const char *at, struct words *words)
{
    int length = 0;
    for (; small(*at); at++) {
        if (length == VERB_LENGTH - 1) return false;
        words->verb[length++] = *at;
    }
    words->verb[length] = 0;
    if (*at && *at != ' ' && *at != ';') return false;
    for (at = skip(at); *at && *at != ';'; at = skip(at)) {
        if (!small(*at) || at[1] != '=') return false;
        int which = *at - 'a';
        at = number(at + 2, &words->value[which]);
        if (!at || (*at && *at != ' ' && *at != ';')) return false;
        words->given |= 1u << which;
    }
    return true;
}

bool words_read(const char *line, struct words *words)
{
    const char *at = skip(line);
    float value;
    words->given = 0;
    words->letter = 0;
    words->number = 0;
    words->verb[0] = 0;
    if (small(*at)) return worded(at, words);
    if (*at != 'G' && *at != 'M') return false;
    words->letter = *at++;
    at = number(at, &value);
    if (!at || value < 0 || value > 9999 || value != (float)(uint16_t)value) return false;
    words->number = (uint16_t)value;
    for (at = skip(at); *at && *at != ';'; at = skip(at)) {
        char letter = *at++;
        if (letter < 'A' || letter > 'Z') return false;
        /* A letter alone is a flag: G28 X */
        words->value[letter - 'A'] = 0;
        words->given |= 1u << (letter - 'A');
        if (*at == ' ' || *at == 0 || *at == ';') continue;
        at = number(at, &words->value[letter - 'A']);
        if (!at) return false;
    }
    return true;
}

bool has(const struct words *words, char letter) { return words->given >> (letter - 'A') & 1; }
float word(const struct words *words, char letter, float otherwise) { return has(words, letter) ? words->value[letter - 'A'] : otherwise; }
