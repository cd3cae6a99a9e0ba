/* words.h: one line taken apart: G-code (`N7 G1 X10*97 ; words`), or a command of our own (`offset x=-38 y=-9`). */
#pragma once
#include "hal/hw.h"
enum { VERB_LENGTH = 16, LETTERS = 26 };
struct words {
    char letter;      /* of the command: G or M; 0 for a worded one */
    uint16_t number;
    char verb[VERB_LENGTH]; /* of a worded command, its words one space apart; empty otherwise */
    uint32_t given;   /* bit i: the word of letter 'A' + i is there */
    uint32_t valued;  /* bit i: with a number */
    int64_t millionths[LETTERS];
};
/* NULL when the line is a command, else what is wrong with it; nothing of it may then be used. Values of a worded command
 * stand under the capital of their name: x=3 is word 'X'. */
const char *words_read(const char *line, struct words *words);
/* The line asks for this command: by its verb, or by letter and number where it has none. */
bool words_ask(const struct words *words, const char *verb, char letter, uint16_t number);
bool has(const struct words *words, char letter);
/* Its number, or `otherwise`. */
float word(const struct words *words, char letter, float otherwise);
int64_t word_millionths(const struct words *words, char letter);

/* A line number in front (`N7`) and a sum behind (`*97`, all bytes before it by exclusive or), both optional. */
struct frame {
    bool numbered, summed, sum_holds;
    uint32_t number;
    /* What lies between, without spaces in front; ends at the sum, the comment or the end. */
    const char *inside;
};
/* Takes a line's frame off; ends the text where the command ends. False when number or sum cannot be read. */
bool frame_read(char *line, struct frame *frame);
