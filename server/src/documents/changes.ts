/** What has become of documents, told to whoever wants to hear it when it is on the disk. */
import { Injectable } from '@nestjs/common';
import type { DocumentChange } from '@zest-jaw/core';
import { Subject } from 'rxjs';

@Injectable()
export class DocumentChanges extends Subject<DocumentChange> {}
