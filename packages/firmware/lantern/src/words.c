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

bool words_read(const char *line, struct words *words)
{
    const char *at = skip(line);
    float value;
    words->given = 0;
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
