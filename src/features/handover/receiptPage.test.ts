import { describe, expect, it } from 'vitest';
import { newReceiptSchema } from '@/contracts/receipt';
import sample from '@/contracts/samples/receipt.v1.json';
import { receiptPage } from '@/features/handover/receiptPage';

const { version: _version, madeAt: _madeAt, ...old } = sample as Record<string, unknown>;
const receipt = { ...newReceiptSchema.parse(old), madeAt: '2026-11-26T20:00:00.000Z' };

describe('a receipt to print', () => {
  it('says its verdict, every line and the digest of every frame, by its number', () => {
    const [one, two] = ['1'.repeat(64), '2'.repeat(64)];
    const page = receiptPage({
      ...receipt,
      frameDigests: {
        version: 1,
        of: 'packet',
        digests: [one, two],
        runs: [
          [0, 2],
          [1, 1],
          [0, 3],
        ],
      },
    });
    const first = receipt.request.firstNumber;
    expect(page).toContain(`<td class="n">${first}–${first + 1}</td><td><code>${one}</code>`);
    expect(page).toContain(`<td class="n">${first + 2}</td><td><code>${two}</code>`);
    expect(page).toContain(`<td class="n">${first + 3}–${first + 5}</td>`);
    expect(page).toMatch(/<strong>(agrees|disagrees|not proved)<\/strong>/);
    expect(page).toContain(`${receipt.request.width} × ${receipt.request.height}`);
  });

  it('shows names as they are, whatever is in them, and asks for nothing from elsewhere', () => {
    const page = receiptPage({ ...receipt, fileName: '<img src=x onerror=alert(1)> & "film".mp4' });
    expect(page).not.toContain('<img');
    expect(page).toContain('&lt;img src=x onerror=alert(1)&gt; &amp; &quot;film&quot;.mp4');
    expect(page).not.toMatch(/https?:|<script|<link|src="/);
  });
});
