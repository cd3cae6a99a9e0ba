/* words.h: one line of G-code taken apart. */
#pragma once
#include "hw.h"
struct words {
    char letter;      /* of the command: G or M */
    uint16_t number;
    uint32_t given;   /* bit i: the word of letter 'A' + i is there */
    float value[26];
};
/* False when the line is not a command; nothing of it may then be used. Comments after ; are skipped. */
bool words_read(const char *line, struct words *words);
bool words_empty(const char *line);
bool has(const struct words *words, char letter);
float word(const struct words *words, char letter, float otherwise);
